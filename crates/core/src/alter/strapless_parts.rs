//! Front and back cut off along an edge without shoulders, and parted there into panels: what the edge is longer than her girth
//! is taken out over the bust, over the back's waist dart and at the sides (handbook: `wishes.md`, section 2).

use kurbo::{Affine, BezPath, Line, ParamCurve, Point, Shape, Vec2};

use super::AlterError;
use super::neckline_dart::lowered_below;
use super::style_line::{Begins, Ends, Parting};
use crate::Style;
use crate::geometry::{
    Curve, FURTHEST, Stretches, bend, closed_path, house_curve, quarter_turn, reach_within, reshape_start,
    root, turn_degrees, with_end_direction,
};
use crate::pattern::{
    Dart, DartPlace, Edge, LevelName, NeckBase, Pattern, PatternMeasure, Piece, Seam, back_off_points,
    measure, upright_at,
};

/// The most a wedge over the bust takes out of a half, and its share of the whole (common practice, no source).
const BUST_WEDGE: (f64, f64) = (25.0, 0.5);
/// The most a wedge over the back's waist dart takes out, and its share of the rest (common practice, no source).
const BACK_WEDGE: (f64, f64) = (20.0, 0.6);
/// The most that is taken off either side edge (common practice, no source).
const SIDE_MOST: f64 = 12.0;
/// All that can be taken out of a half, in millimetres.
const MOST_OUT: f64 = BUST_WEDGE.0 + BACK_WEDGE.0 + 2.0 * SIDE_MOST;
/// An edge may be shorter than wanted by this on a half; more is let out first.
const MOST_SHORT: f64 = 8.0;
/// Where the edge lies so far above the end of the back's waist dart, that end stays a corner of the seam.
const CORNER_ABOVE: f64 = 15.0;
/// A waist dart beside the seam ends so far below the edge (common practice, no source).
const BELOW_EDGE: f64 = 25.0;
/// The seam over the bust point is drawn round so far to either side of it, at most and usually.
const ROUNDED: (f64, f64) = (60.0, 15.0);
/// What is left of a side seam below the edge is at least so long, in millimetres.
const LEAST_SIDE: f64 = 60.0;
/// Sides of front and back are first looked for so near to each other, in millimetres.
const SIDES_APART: f64 = 25.0;
/// Shorter than this a line is none, in millimetres.
const SAME_POINT: f64 = 1e-6;
/// A grain line is at least and usually so long, and ends so far above the lower edge, in millimetres.
const LEAST_GRAIN: f64 = 55.0;
const GRAIN_LONG: f64 = 100.0;
const ABOVE_FOOT: f64 = 10.0;
/// Where else across the upper edge a grain line is tried.
const GRAIN_AT: [f64; 5] = [0.5, 0.35, 0.65, 0.2, 0.8];
/// So much of the lower edge is drawn square to a centre that was set in, in millimetres.
const SQUARED: f64 = 40.0;
/// A mark this near to a line lies on it, in millimetres.
const ON_LINE: f64 = 0.5;
/// The dart that becomes the seam.
const LINE: DartPlace = DartPlace::Waist;

/// What is asked of the edge, in the pieces' own coordinates and in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Asked {
    /// The level of the cups' tops.
    pub(super) top: f64,
    /// The level of the edge at the centre front.
    pub(super) centre: f64,
    /// It leaves the centre front at half a right angle, not level.
    pub(super) is_sweetheart: bool,
    /// From the underarm down to where it meets the side; upwards where it is less than nothing.
    pub(super) below_underarm: f64,
    /// How much lower than at the side it lies at the centre back.
    pub(super) lower_behind: f64,
    /// What is left open behind between the two sides.
    pub(super) gap: f64,
    /// Her bust where it is known, all round.
    pub(super) bust: Option<f64>,
    /// Her upper bust where it is known, all round.
    pub(super) upper_bust: Option<f64>,
    /// By which share of her girth it is drawn in.
    pub(super) drawn_in: f64,
}

/// What is taken out of a half along the edge, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct TakenOut {
    /// Over the bust.
    pub(super) bust: f64,
    /// Over the back's waist dart.
    pub(super) back: f64,
    /// Off each of the two side edges.
    pub(super) side: f64,
}

impl TakenOut {
    /// Shared as the handbook has it.
    fn of(whole: f64) -> Self {
        let bust = (whole * BUST_WEDGE.1).min(BUST_WEDGE.0);
        let back = ((whole - bust) * BACK_WEDGE.1).min(BACK_WEDGE.0);
        Self { bust, back, side: ((whole - bust - back) / 2.0).min(SIDE_MOST) }
    }
}

/// A front and a back parted under an edge, and what there is to say of it.
#[derive(Clone, Debug)]
pub(super) struct Strapless {
    /// Centre and side panel in front.
    pub(super) front: [Piece; 2],
    /// Centre and side panel behind.
    pub(super) back: [Piece; 2],
    /// What is drawn on the whole pieces: the edge and the two legs of the seam.
    pub(super) drawn: [Vec<Curve>; 2],
    /// Where the front's wedge turns.
    pub(super) bust_point: Point,
    /// The edge as it is sewn, all round, without the gap.
    pub(super) sewn: f64,
    /// Her girth along it.
    pub(super) hers: f64,
    /// What edge and gap were to make together.
    pub(super) wanted: f64,
    /// What was taken out of a half.
    pub(super) out: TakenOut,
}

/// Cuts both off along the edge and parts them.
///
/// # Errors
///
/// [`AlterError::NotHere`] with the limit, where it cannot be drawn.
pub(super) fn strapless(
    (front, back): (&Piece, &Piece),
    asked: &Asked,
    style: Style,
) -> Result<Strapless, AlterError> {
    let in_front = Ready::of(front)?;
    let behind = Ready::of(back)?;
    let body = Widths::of((front, back), in_front.parting.pivot, asked);
    let drawn = |out: TakenOut| -> Result<(Drawn, Drawn), AlterError> {
        let front = in_front.drawn_in_front(asked, out)?;
        let back = behind.drawn_behind(asked, out, front.side_length)?;
        Ok((front, back))
    };
    let (plain_front, plain_back) = drawn(TakenOut::default())?;
    let half = |(front, back): &(Drawn, Drawn)| front.edge_length() + back.edge_length() + asked.gap / 2.0;
    let hers = body.along(&plain_front.edge, front) + body.along(&plain_back.edge, back) + asked.gap / 2.0;
    let wanted = hers * (1.0 - asked.drawn_in);
    let out = taken_out(|out| Some(half(&drawn(out).ok()?)), wanted, style)?;
    let front_drawn = in_front.drawn_in_front(asked, out)?;
    let (front_panels, front_lines) = front_drawn.parted(&in_front, front, style)?;
    // The sides are equal as they are sewn: the front's was drawn smooth where a dart was closed.
    let side: f64 = front_panels.iter().map(|piece| piece.sewn_length(Seam::Side)).sum();
    let back_drawn = behind.drawn_behind(asked, out, side)?;
    let (back_panels, back_lines) = back_drawn.parted(&behind, back, style)?;
    Ok(Strapless {
        sewn: 2.0 * (front_drawn.edge_length() + back_drawn.edge_length()),
        front: front_panels,
        back: back_panels,
        drawn: [front_lines, back_lines],
        bust_point: in_front.parting.pivot,
        hers: 2.0 * hers,
        wanted: 2.0 * wanted,
        out,
    })
}

/// What must be taken out of a half so that edge and gap come to what is wanted.
fn taken_out(
    half: impl Fn(TakenOut) -> Option<f64>,
    wanted: f64,
    style: Style,
) -> Result<TakenOut, AlterError> {
    let over = |whole: f64| half(TakenOut::of(whole)).map_or(f64::NAN, |half| half - wanted);
    let (least, most) = (over(0.0), over(MOST_OUT));
    if least <= 0.0 {
        if -least > MOST_SHORT {
            return Err(AlterError::not_here(format!(
                "on each half the edge is {} shorter than she is there, at most {}: let the side seams out first",
                style.with_unit(-least),
                style.with_unit(MOST_SHORT)
            )));
        }
        return Ok(TakenOut::default());
    }
    if most > 0.0 {
        return Err(AlterError::not_here(format!(
            "on each half {} more would have to be taken out of the edge than seams can take in: less ease, or take the side seams in first",
            style.with_unit(most)
        )));
    }
    let whole = root(over, 0.0, MOST_OUT)
        .ok_or_else(|| AlterError::not_here("the edge cannot be drawn so tight: less drawn in"))?;
    Ok(TakenOut::of(whole))
}

/// Her girths against the block's widths: by how much of the cloth she is at the underarm and at the bust line.
struct Widths {
    /// Her share of the block's width at the underarm.
    upper: f64,
    /// The same at the bust line.
    bust: f64,
    /// How far the bust line lies below the underarm, in millimetres.
    bust_below: f64,
}

impl Widths {
    fn of((front, back): (&Piece, &Piece), point: Point, asked: &Asked) -> Self {
        let pattern = Pattern::new(vec![front.clone(), back.clone()]);
        let block_bust = measure(&pattern).get(PatternMeasure::Bust).filter(|mm| *mm > 0.0);
        let block_upper = 2.0 * (front.underarm().x - front.centre_top().x + back.underarm().x);
        let share = |hers: Option<f64>, block: f64| hers.map_or(1.0, |mm| mm / block);
        Self {
            upper: share(asked.upper_bust, block_upper),
            bust: block_bust.map_or(1.0, |block| share(asked.bust, block)),
            bust_below: point.y - front.underarm().y,
        }
    }

    /// Her girth along an edge on one half: of every step what lies across is hers, what lies down is the cloth's.
    fn along(&self, edge: &[Curve; 2], piece: &Piece) -> f64 {
        let underarm = piece.underarm().y;
        let share = |y: f64| {
            let down = ((y - underarm) / self.bust_below).clamp(0.0, 1.0);
            self.upper + (self.bust - self.upper) * down
        };
        let step = |pair: &[Point]| {
            let by = pair[1] - pair[0];
            (by.x * share(pair[0].y.midpoint(pair[1].y))).hypot(by.y)
        };
        edge.iter().map(|part| part.flattened(0.01).windows(2).map(step).sum::<f64>()).sum()
    }
}

/// An edge drawn on one half, and the seam that begins at it.
struct Drawn {
    /// Towards the centre and towards the side.
    edge: [Curve; 2],
    /// The whole seam on either panel, downwards.
    seam: [Curve; 2],
    /// The uppermost edge of the side, from the upper edge down.
    side: Curve,
    /// What it is shorter there than it was: marks on it keep their distance from the waist.
    side_cut: f64,
    /// The sewn side seam.
    side_length: f64,
    centre: Curve,
    is_pointed: bool,
    gap: f64,
}

impl Drawn {
    fn edge_length(&self) -> f64 {
        self.edge.iter().map(Curve::length).sum()
    }

    /// The panels, and the lines as they are drawn on the whole piece.
    fn parted(
        &self,
        ready: &Ready,
        whole: &Piece,
        style: Style,
    ) -> Result<([Piece; 2], Vec<Curve>), AlterError> {
        let cut = self.cut(&ready.piece, style)?;
        // Either panel begins with its part of the edge.
        let ends = Ends { before: 1, centre: Vec::new(), side: Vec::new(), after: 1 };
        let (centre, side) = ready.parting.panels(&cut, &ends, self.seam.clone());
        let mut panels = [centre, ready.parting.laid_back(side, whole)];
        panels.iter_mut().for_each(redraw_grain);
        let lines = self.edge.iter().chain(&self.seam).cloned().collect();
        Ok((panels, lines))
    }

    /// What the edge cuts off, and all that lies above that.
    fn above(&self) -> BezPath {
        let [inner, outer] = &self.edge;
        let up = |from: Point| from - Vec2::new(0.0, FURTHEST);
        let (start, end) = (inner.start(), outer.end());
        let round = [
            inner.clone(),
            Curve::line(inner.end(), outer.start()),
            outer.clone(),
            Curve::line(end, up(end)),
            Curve::line(up(end), up(start)),
        ];
        closed_path(round.iter())
    }

    /// The piece below the edge, its dart still whole.
    fn cut(&self, ready: &Piece, style: Style) -> Result<Piece, AlterError> {
        let at_side = ready.first_edge(Seam::Side).ok_or_else(|| AlterError::no_seam(Seam::Side))?;
        let last = ready.edges.len() - 1;
        let mut edges: Vec<Edge> =
            self.edge.iter().cloned().map(|curve| Edge::sewn(Seam::UpperEdge, curve)).collect();
        edges.push(Edge { curve: self.side.clone(), ..ready.edges[at_side].clone() });
        edges.extend(ready.edges[at_side + 1..last].iter().cloned());
        let is_open = self.gap > 0.0;
        if let Some(waist) = edges.last_mut().filter(|_| is_open) {
            let along = waist.curve.nearest(self.centre.start());
            let short = waist.curve.split(along).0.with_end(self.centre.start());
            // Further in, the lower edge is not quite square to the centre any more.
            let square = -quarter_turn(self.centre.start_direction());
            waist.curve = with_end_direction(&short, square, SQUARED).map_or(short, |end| end.curve);
        }
        edges.push(Edge {
            curve: self.centre.clone(),
            fold: ready.edges[last].fold && !is_open,
            ..ready.edges[last].clone()
        });
        let seams: Vec<Seam> = edges.iter().map(|edge| edge.seam).collect();
        let is_left =
            |seam: Seam, along: f64| seams.contains(&seam) && (seam != Seam::Side || along > self.side_cut);
        let shifted = |seam: Seam, along: f64| if seam == Seam::Side { along - self.side_cut } else { along };
        let mut cut = Piece {
            darts: { ready.darts.iter() }
                .filter(|dart| edges.iter().any(|edge| edge.dart == Some(dart.place)))
                .cloned()
                .collect(),
            neckline: Some(NeckBase {
                top: ready.neck_base_top(),
                side: ready.neck_base_side(),
                pointed: self.is_pointed,
            }),
            edges,
            ..ready.clone()
        };
        cut.notches.retain(|notch| is_left(notch.seam, notch.from_underarm));
        cut.notches
            .iter_mut()
            .for_each(|notch| notch.from_underarm = shifted(notch.seam, notch.from_underarm));
        cut.gathers.retain(|gather| is_left(gather.seam, gather.from_underarm));
        cut.gathers
            .iter_mut()
            .for_each(|gather| gather.from_underarm = shifted(gather.seam, gather.from_underarm));
        if is_open {
            for level in &mut cut.levels {
                if let [first, next, ..] = level.points.as_mut_slice() {
                    *first = first.lerp(*next, self.gap / 2.0 / (next.x - first.x));
                }
            }
        }
        // Marks on the side stay on it, as far from the waist as they were.
        let was = &ready.edges[at_side].curve;
        for point in cut.levels.iter_mut().filter_map(|level| level.points.last_mut()) {
            let along = was.nearest(*point);
            if was.point_at(along).distance(*point) < ON_LINE && along > self.side_cut {
                *point = self.side.point_at(along - self.side_cut);
            }
        }
        let (above, stretches) = (self.above(), Stretches::of(&self.edge));
        // What the edge cuts off at one of its ends is no line round the body any more.
        cut.levels.retain(|level| !level.points.iter().any(|point| above.contains(*point)));
        if let Some(dart) = cut_through(ready, &above) {
            return Err(AlterError::not_here(format!(
                "the {} reaches below the edge: move it to the waist dart first",
                dart.place.name()
            )));
        }
        let is_free = |point: Point| !above.contains(point) && stretches.away(point) >= BELOW_EDGE;
        lowered_below(&mut cut, Some(LINE), is_free, "the edge", style)?;
        back_off_points(&mut cut);
        Ok(cut)
    }
}

/// Draws a panel's grain line anew: where it runs, or beside a dart or a centre that was set in, from below the upper edge
/// down, as long as there is room.
fn redraw_grain(panel: &mut Piece) {
    let (start, end) = panel.grain;
    let Some(edge) = panel.edges_of(Seam::UpperEdge).next().map(|edge| edge.curve.clone()) else { return };
    let at = |x: f64| {
        let (edge, foot) = upright_at(panel, x)?;
        let top = start.y.max(edge.y + BELOW_EDGE);
        let foot = end.y.max(top + GRAIN_LONG).min(foot.y - ABOVE_FOOT);
        (foot - top > LEAST_GRAIN).then(|| (Point::new(x, top), Point::new(x, foot)))
    };
    let across = |share: f64| edge.start().lerp(edge.end(), share).x;
    if let Some(grain) = std::iter::once(start.x).chain(GRAIN_AT.map(across)).find_map(at) {
        panel.grain = grain;
    }
}

/// A dart whose mouth is cut off while its end is not.
fn cut_through<'a>(ready: &'a Piece, above: &BezPath) -> Option<&'a Dart> {
    let is_above = |dart: &&Dart| {
        matches!(dart.place.seam(), Seam::Neckline | Seam::Shoulder | Seam::Armhole | Seam::CentreFront)
    };
    ready.darts.iter().filter(is_above).find(|dart| !above.contains(dart.pivot))
}

/// A half made ready: its waist dart at the point its darts shape, the others turned into it.
struct Ready {
    piece: Piece,
    parting: Parting,
    /// The uppermost edge of the side.
    side: Curve,
    /// The sewn side below that edge.
    side_rest: f64,
    /// How far down the side what is taken off there tapers, from the underarm.
    tapers_to: f64,
}

impl Ready {
    fn of(piece: &Piece) -> Result<Self, AlterError> {
        let (ready, parting) = Parting::of(piece, Begins::Shoulder)?;
        let of_side = |piece: &Piece| piece.edges_of(Seam::Side).next().map(|edge| edge.curve.clone());
        let side = of_side(&ready).ok_or_else(|| AlterError::no_seam(Seam::Side))?;
        let side_rest = ready.sewn_length(Seam::Side) - side.length();
        // Down to the next mouth of a dart, or to the waist.
        let to_dart = of_side(piece).map_or(side.length(), |first| first.length().min(side.length()));
        let waist = ready.level(LevelName::Waist).and_then(|level| level.points.last());
        let tapers_to = waist.map_or(to_dart, |at| to_dart.min(side.nearest(*at)));
        Ok(Self { piece: ready, parting, side, side_rest, tapers_to })
    }

    /// The uppermost edge of the side from so far below the underarm, taken off there by so much; upwards it goes on straight.
    fn side_from(&self, below: f64, off: f64) -> Option<Curve> {
        if self.side.length() - below < LEAST_SIDE {
            return None;
        }
        let side = if below >= 0.0 {
            self.side.split(below).1
        } else {
            let start = self.side.start();
            Curve::line(start + self.side.start_direction() * below, start).then(self.side.clone())
        };
        if off == 0.0 {
            return Some(side);
        }
        let inwards = quarter_turn(side.start_direction()) * off;
        Some(reshape_start(&side, inwards, (self.tapers_to - below).max(LEAST_SIDE)))
    }

    fn centre_line(&self) -> Result<&Curve, AlterError> {
        Ok(&self.piece.edges.last().ok_or_else(|| AlterError::no_seam(self.piece.kind.centre()))?.curve)
    }

    /// The front: wedge and waist dart together are the seam.
    fn drawn_in_front(&self, asked: &Asked, out: TakenOut) -> Result<Drawn, AlterError> {
        let side = self.side_from(asked.below_underarm, out.side).ok_or_else(too_low)?;
        let centre_line = self.centre_line()?;
        let no_centre = || AlterError::not_here("the edge does not meet the centre front: a lower one");
        let along = centre_line.crossing_level(asked.centre).ok_or_else(no_centre)?;
        let centre = centre_line.split(along).0;
        let point = self.parting.pivot;
        let top = Point::new(point.x, asked.top);
        let turn = (out.bust / (2.0 * top.distance(point))).asin();
        let tops = [-turn, turn].map(|turn| Affine::rotate_about(turn, point) * top);
        let down = tops.map(|top| (point - top) / point.distance(top));
        let level = quarter_turn(centre.end_direction());
        let leaves = if asked.is_sweetheart { level - Vec2::new(0.0, 1.0) } else { level };
        let edge = [
            house_curve(centre.end(), leaves, tops[0], outwards(down[0])).curve,
            house_curve(tops[1], outwards(down[1]), side.start(), outwards(side.start_direction())).curve,
        ];
        Ok(Drawn {
            edge,
            seam: rounded_alike(tops, &self.parting.legs),
            side_length: side.length() + self.side_rest,
            side_cut: self.side.length() - side.length(),
            side,
            centre,
            is_pointed: asked.is_sweetheart,
            gap: 0.0,
        })
    }

    /// The back, so that its sewn side seam is so long: the seam runs along the axis of its waist dart.
    fn drawn_behind(&self, asked: &Asked, out: TakenOut, side_length: f64) -> Result<Drawn, AlterError> {
        let unequal = || {
            AlterError::not_here(
                "the back's side seam is too short for the edge to meet the front's: balance the sides first",
            )
        };
        let over = |below: f64| {
            let side = self.side_from(below, out.side);
            side.map_or(f64::NAN, |side| side.length() + self.side_rest - side_length)
        };
        let near = asked.below_underarm;
        let below = root(over, near - SIDES_APART, near + SIDES_APART).ok_or_else(unequal)?;
        let side = self.side_from(below, out.side).ok_or_else(too_low)?;
        let centre = self.centre_behind(side.start().y + asked.lower_behind, asked.gap)?;
        let level = quarter_turn(centre.end_direction());
        let legs = &self.parting.legs;
        let ways = [legs[0].start_direction(), legs[1].start_direction()];
        let axis = (ways[0] + ways[1]) / (ways[0] + ways[1]).hypot();
        let across = outwards(axis);
        let end = self.parting.pivot;
        let square = outwards(side.start_direction());
        let missed = || {
            AlterError::not_here("the edge does not meet the back's waist dart: another height at the side")
        };
        // On the open piece, where the dart ends below the edge; with it closed where the edge cuts into it.
        let open = house_curve(centre.end(), level, side.start(), square).curve;
        let on_axis = open
            .crossing(Line::new(end - axis * 400.0, end + axis * 400.0))
            .map(|along| open.point_at(along));
        let above = on_axis.map(|at| (end - at).dot(axis)).ok_or_else(missed)?;
        let ends = if above >= 0.0 {
            let at = end - axis * above;
            [at, at]
        } else {
            let turn = turn_degrees(ways[0], ways[1]).to_radians();
            let closing = Affine::rotate_about(-turn, end);
            let way = (Affine::rotate(-turn) * square.to_point()).to_vec2();
            let closed = house_curve(centre.end(), level, closing * side.start(), way).curve;
            let along = closed.crossing(Line::new(end, end + ways[0] * 400.0)).ok_or_else(missed)?;
            let down = closed.point_at(along).distance(end);
            ways.map(|way| end + way * down)
        };
        let tops = [ends[0] - across * (out.back / 2.0), ends[1] + across * (out.back / 2.0)];
        let reach = (above > CORNER_ABOVE).then_some(ROUNDED.1);
        let seam = [0, 1].map(|panel| down(tops[panel], &legs[panel], reach));
        let edge = [
            house_curve(centre.end(), level, tops[0], outwards(seam[0].start_direction())).curve,
            house_curve(tops[1], outwards(seam[1].start_direction()), side.start(), square).curve,
        ];
        Ok(Drawn {
            edge,
            seam,
            side_length,
            side_cut: self.side.length() - side.length(),
            side,
            centre,
            is_pointed: false,
            gap: asked.gap,
        })
    }

    /// The centre back from the lower edge up to this level, set in by half of what stays open.
    fn centre_behind(&self, level: f64, gap: f64) -> Result<Curve, AlterError> {
        let set_in = self.centre_line()?.transformed(Affine::translate((gap / 2.0, 0.0)));
        let missed = || AlterError::not_here("the edge does not meet the centre back: a lower one");
        let along = set_in.crossing_level(level).ok_or_else(missed)?;
        let below = set_in.split(along).0;
        if gap == 0.0 {
            return Ok(below);
        }
        // The waist is not quite level: the line is carried on to it, or ends there.
        let waist = &self.piece.edges[self.piece.edges.len() - 2].curve;
        let way = below.start_direction();
        let plumb = Line::new(below.start() - way * 40.0, below.start() + way * 40.0);
        let foot = waist.crossing(plumb).map(|along| waist.point_at(along)).ok_or_else(missed)?;
        Ok(below.with_start(foot))
    }
}

/// The way out of a line that runs in this direction, square to it and towards the side.
fn outwards(down: Vec2) -> Vec2 {
    -quarter_turn(down)
}

fn too_low() -> AlterError {
    AlterError::not_here("the edge leaves too little of the side seam: a higher one")
}

/// Both seams over the bust point, each from its top to it and on down a leg of the dart, the bend there drawn round: the
/// sharper bend over a shorter way, so that both are equally long.
fn rounded_alike(tops: [Point; 2], legs: &[Curve; 2]) -> [Curve; 2] {
    let drawn = |panel: usize, reach: f64| down(tops[panel], &legs[panel], Some(reach));
    let usual = [0, 1].map(|panel| drawn(panel, ROUNDED.1));
    let longer = usize::from(usual[1].length() > usual[0].length());
    let wanted = usual[1 - longer].length();
    // A gentler bend drawn round over a longer way loses as much; where that is not enough, the sharper one over a shorter.
    let over = |reach: f64| drawn(longer, reach).length() - wanted;
    if let Some(reach) = root(over, ROUNDED.1, ROUNDED.0) {
        let mut both = usual;
        both[longer] = drawn(longer, reach);
        return both;
    }
    let gentle = drawn(longer, ROUNDED.0);
    let under = |reach: f64| drawn(1 - longer, reach).length() - gentle.length();
    let sharp = root(under, 0.0, ROUNDED.1)
        .map_or_else(|| usual[1 - longer].clone(), |reach| drawn(1 - longer, reach));
    if longer == 0 { [gentle, sharp] } else { [sharp, gentle] }
}

/// A seam from the edge to the end of a dart and on down its leg, the bend there drawn round so far to either side; where it
/// is told no reach, past the end of the dart straight to where its leg begins to bend, or ends.
fn down(top: Point, leg: &Curve, reach: Option<f64>) -> Curve {
    let (end, corner) = (leg.start(), leg.segments()[0].end());
    let line = match reach {
        Some(reach) => {
            let reach = reach_within(top, end, reach_within(end, corner, reach));
            bend(top, end, corner, (reach, reach))
        }
        None => Curve::line(top, corner),
    };
    match leg.split(end.distance(corner)).1 {
        rest if rest.length() > SAME_POINT => line.then(rest.with_start(corner)),
        _ => line,
    }
}
