//! Rounded back (and erect back, negative): length is slashed in above the blades, finished by one of three
//! schools (handbook: `alterations.md`, section 2).

use kurbo::{Affine, Point, Vec2};

use super::keeps::{FRONT, GIRTHS, Keeps};
use super::shoulder_dart::with_shoulder_dart;
use super::ways::{Ways, ways};
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Amounts, Args, Handle, Layer, MeasuredOn, Param, StageKind,
};
use crate::Style;
use crate::drape::SlashedBack;
use crate::geometry::{Curve, turn_degrees};
use crate::geometry::{house_curve, root};
use crate::pattern::{
    Cut, Dart, DartPlace, Edge, Join, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash,
    back_off_points, true_kinks,
};

/// Truing reach at the hinge, in millimetres.
const HINGE_REACH: f64 = 12.0;
/// The shaped centre back bends over this much above and below the slash, in millimetres.
const BEND: f64 = 60.0;
/// A neck dart lies at this share of the neckline from the old nape, and is this long.
const NECK_DART_AT: f64 = 0.45;
/// Length of a neck dart, in millimetres.
const NECK_DART_LONG: f64 = 75.0;
/// A shoulder dart may grow by this before the rest belongs elsewhere, in millimetres.
const SHOULDER_DART_GROWS: f64 = 12.0;

ways! {
    /// How what opens is finished.
    Finish {
        /// The centre back becomes a seam.
        Seam = "seam", "shaped centre-back seam";
        /// A dart at the neck.
        NeckDart = "neck_dart", "neck dart, centre back on the fold";
        /// The shoulder dart takes it.
        ShoulderDart = "shoulder_dart", "into the shoulder dart, on the fold";
    }
}

const PARAMS: [Param; 7] = [
    Param::amount(
        "Longer behind",
        MeasuredOn::Here,
        (-25.0, SlashedBack::MOST_OPENED),
        "The length missing at the centre back: how far it hikes, or her back length over the block's. Negative for an erect \
         back.",
    ),
    Param::way(
        "finish",
        "Finish",
        Finish::WAYS,
        "A shaped seam follows the back best; a neck dart keeps the fold; a shoulder dart takes small amounts.",
    ),
    Param::place(
        "level",
        "Below the nape",
        SlashedBack::LEVELS,
        None,
        "Where she is roundest. Left out, half-way from the nape to the underarm.",
    ),
    Param::place(
        "pinned_at_level",
        "Pins stand in, at the level",
        (0.0, SlashedBack::MOST_IN),
        None,
        "How far in from the straight centre her pins stand where she is roundest: the shaped seam then goes through them. Left \
         out, it is the house curve.",
    ),
    Param::place(
        "pinned_quarter_way",
        "Pins stand in, a quarter of the way up",
        (0.0, SlashedBack::MOST_IN),
        None,
        "The same a quarter of the way from there to the nape.",
    ),
    Param::place(
        "pinned_half_way",
        "Pins stand in, half-way up",
        (0.0, SlashedBack::MOST_IN),
        None,
        "The same half-way from there to the nape.",
    ),
    Param::place(
        "pinned_three_quarters",
        "Pins stand in, three quarters of the way up",
        (0.0, SlashedBack::MOST_IN),
        None,
        "The same three quarters of the way from there to the nape.",
    ),
];
/// The settings that say how far in her pins stand, at the heights at which a drawn centre is read.
const PINS: [&str; 4] = ["pinned_at_level", "pinned_quarter_way", "pinned_half_way", "pinned_three_quarters"];

const ABOUT: About = About {
    code: "rounded_back",
    name: "Rounded back",
    why: "The back hikes up at the centre because length is missing over the blades; negative for an erect back that folds there.",
    params: &PARAMS,
    seams: &[Seam::CentreBack, Seam::Neckline],
    wants: "a rounded back is slashed in a whole back without a neck dart: this pattern has none",
    layer: Layer::Balance,
};

/// How a rounded back is set to what was slashed and drawn on her.
pub fn rounded_back_as_slashed(back: &SlashedBack) -> Amounts {
    let amounts = Amounts::of(back.opens).with("level", back.below_nape).by("finish", "seam");
    let pins = PINS.iter().zip(back.stands_in);
    pins.fold(amounts, |amounts, (code, by)| amounts.with(code, by))
}

/// What it is told.
struct Params {
    /// In millimetres.
    by: f64,
    finish: Finish,
    /// Where it is cut, below the nape; none half-way to the underarm.
    level: Option<f64>,
    /// How far in her pins stand, by the settings of [`PINS`]; none where she set none.
    pinned: [Option<f64>; 4],
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self {
            by: args.amount(),
            finish: args.choice("finish"),
            level: args.number("level"),
            pinned: PINS.map(|code| args.number(code)),
        }
    }
}

/// Length let in above the blades, or folded out.
pub(super) struct RoundedBack;

impl Alteration for RoundedBack {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.back().is_some_and(|back| back.dart(DartPlace::Neckline).is_none())
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        use PatternMeasure::{ArmholeBack, NecklineBack, ShoulderBack, SideBack};
        let keeps = Keeps::exactly(&[FRONT, &[SideBack], GIRTHS]);
        match Params::of(args).finish {
            // What the neckline was extended by is taken up again; drawing it smooth costs a little.
            Finish::NeckDart => keeps
                .within(0.0, &[&[ShoulderBack]])
                .within(0.7, &[&[ArmholeBack]])
                .within(1.0, &[&[NecklineBack]]),
            // The shoulder is drawn as long as it was, and neckline and armhole square to it.
            Finish::ShoulderDart => keeps.within(1.0, &[&[NecklineBack, ShoulderBack, ArmholeBack]]),
            Finish::Seam => {
                keeps.within(0.0, &[&[NecklineBack, ShoulderBack]]).within(0.7, &[&[ArmholeBack]])
            }
        }
    }

    fn drawn_from(&self) -> f64 {
        // Its finish redraws the neckline, the centre or a shoulder.
        5.0
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        // A shaped seam grows by g within 0.2 and a neck dart's fold within 1.5: tested by themselves.
        let Params { by, finish, .. } = Params::of(args);
        match finish {
            Finish::ShoulderDart => vec![(PatternMeasure::CentreBack, by)],
            Finish::Seam | Finish::NeckDart => Vec::new(),
        }
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let back = pattern.back()?;
        Some(Handle::new(back.kind, back.centre_top(), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let back = pattern.back().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let Params { by, finish, level, pinned } = Params::of(args);
        let cut = Level::mark(back, level)?;
        let back = &cut.with_grain_below(back);
        let (slash, taped, mut trued) = match finish {
            Finish::ShoulderDart => cut.to_shoulder_dart(back, by, style)?,
            Finish::NeckDart if by < 0.0 => {
                return Err(AlterError::not_here(
                    "a neck dart takes up what a rounded back adds: for an erect back choose the centre-back seam",
                ));
            }
            Finish::NeckDart | Finish::Seam => {
                let slash = cut.slash(by, style)?;
                let taped = slash.apply(back)?;
                let turn = cut.turn(by);
                let shaped = if finish == Finish::NeckDart {
                    cut.with_neck_dart(taped, turn)?
                } else {
                    let old = back.edges_of(Seam::CentreBack).next();
                    let old = old.ok_or_else(|| AlterError::no_seam(Seam::CentreBack))?.curve.clone();
                    cut.with_shaped_seam(taped, &old, turn, pinned)
                };
                // What is taped already has its centre drawn: only the seam lines are still untrued.
                (slash, shaped.clone(), shaped)
            }
        };
        true_kinks(&mut trued, Seam::Armhole, HINGE_REACH);
        if finish == Finish::NeckDart {
            true_kinks(&mut trued, Seam::Neckline, HINGE_REACH);
        }
        back_off_points(&mut trued);
        let words = words(finish, by, style);
        Ok(altered(pattern, &[PieceWork::cut(back, slash, taped, trued)], &words))
    }
}

/// The level slash from centre back to its hinge on the armhole.
struct Level {
    centre: Place,
    armhole: Place,
    /// The hinge on the armhole.
    hinge: Point,
    /// The hinge as the part towards the centre turns about it: elsewhere only where a shoulder dart lies in the cut.
    inner_hinge: Point,
    /// A shoulder dart that the cut runs through.
    in_the_way: Option<InTheWay>,
    /// Where the cut leaves the centre.
    at_centre: Point,
    nape: Point,
}

/// A shoulder dart whose pivot lies below the cut. The cut is made with the dart closed: as if it were turned out of the
/// way, the back cut, and the dart turned back (handbook: `alterations.md`, section 2, a dart in the way).
struct InTheWay {
    cut: Cut,
    pivot: Point,
    /// Where the cut meets the leg towards the centre, and the other leg.
    on_legs: (Point, Point),
}

impl Level {
    fn mark(back: &Piece, below: Option<f64>) -> Result<Self, AlterError> {
        let nape = back.centre_top();
        let level = nape.y + below.unwrap_or((back.underarm().y - nape.y) / 2.0);
        let missing = || AlterError::not_here("the level must lie between nape and underarm: move it");
        let on = |seam: Seam| {
            let edges = back.edges.iter().enumerate().filter(move |(_, edge)| edge.seam == seam);
            edges
                .filter_map(|(index, edge)| {
                    Some(Place { edge: index, along: edge.curve.crossing_level(level)? })
                })
                .next_back()
                .ok_or_else(missing)
        };
        let centre = on(Seam::CentreBack)?;
        let at = |place: Place| back.edges[place.edge].curve.point_at(place.along);
        let at_centre = at(centre);
        let dart = back.dart(DartPlace::Shoulder).filter(|dart| dart.pivot.y > level);
        let Some((dart, cut)) = dart.zip(Cut::along(back, DartPlace::Shoulder)) else {
            let armhole = on(Seam::Armhole)?;
            let hinge = at(armhole);
            return Ok(Self {
                centre,
                armhole,
                hinge,
                inner_hinge: hinge,
                in_the_way: None,
                at_centre,
                nape,
            });
        };
        let (inner, outer) = back.mouth(DartPlace::Shoulder).ok_or_else(missing)?;
        let pivot = dart.pivot;
        let opening = turn_degrees(inner - pivot, outer - pivot).to_radians();
        let closed = Affine::rotate_about(-opening, pivot);
        let index = back.first_edge(Seam::Armhole).ok_or_else(missing)?;
        let line = &back.edges[index].curve;
        let over = |along: f64| (closed * line.point_at(along)).y - level;
        let along = root(over, 0.0, line.length()).ok_or_else(missing)?;
        let hinge = line.point_at(along);
        let share = (level - inner.y) / (pivot.y - inner.y);
        if share <= 0.0 {
            return Err(missing());
        }
        let on_leg = inner.lerp(pivot, share);
        let on_legs = (on_leg, Affine::rotate_about(opening, pivot) * on_leg);
        let in_the_way = Some(InTheWay { cut, pivot, on_legs });
        let armhole = Place { edge: index, along };
        Ok(Self { centre, armhole, hinge, inner_hinge: closed * hinge, in_the_way, at_centre, nape })
    }

    /// The grain line shortened to what stays.
    fn with_grain_below(&self, back: &Piece) -> Piece {
        let mut back = back.clone();
        back.grain.0.y = back.grain.0.y.max(self.hinge.y.max(self.at_centre.y) + 15.0);
        back
    }

    /// From the centre to the hinge, with a dart in the way closed.
    fn reach(&self) -> f64 {
        self.inner_hinge.x - self.at_centre.x
    }

    fn turn(&self, by: f64) -> f64 {
        (by / self.reach()).asin()
    }

    fn slash(&self, by: f64, style: Style) -> Result<Slash, AlterError> {
        if by.abs() >= self.reach() / 2.0 {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                by,
                (self.reach() / 2.0).copysign(by),
                "this back opens at its hinge",
                "cut it at another level, or put the rest into length",
            ));
        }
        // The centre is drawn anew over what opened or lapped.
        let centre = Join::Gap(Seam::CentreBack);
        let turn = |about| Motion::Turn { about, by: self.turn(by) };
        let part = |from, to, inner, motion| Part { from, to, inner, motion };
        let Some(dart) = &self.in_the_way else {
            let none = Vec::new;
            return Ok(Slash {
                parts: vec![
                    (part(self.armhole, self.centre, none(), Motion::Still), centre),
                    (part(self.centre, self.armhole, none(), turn(self.hinge)), Join::Meet),
                ],
            });
        };
        let (inner_leg, outer_leg) = dart.on_legs;
        let below = vec![inner_leg, dart.pivot, outer_leg];
        Ok(Slash {
            parts: vec![
                (part(self.armhole, self.centre, below, Motion::Still), centre),
                (
                    part(self.centre, dart.cut.before, vec![inner_leg], turn(self.inner_hinge)),
                    Join::Dart(DartPlace::Shoulder, dart.pivot),
                ),
                (part(dart.cut.after, self.armhole, vec![outer_leg], turn(self.hinge)), Join::Meet),
            ],
        })
    }

    /// The centre back as a seam: as it was below, over the house curve, and on in the turned line's direction; or through
    /// wherever her pins stand in.
    fn with_shaped_seam(&self, mut back: Piece, old: &Curve, turn: f64, pinned: [Option<f64>; 4]) -> Piece {
        let turned = Affine::rotate_about(turn, self.inner_hinge);
        let level = self.at_centre.y;
        let foot = old.start().y;
        let along =
            |y: f64| old.crossing_level(y).unwrap_or_else(|| if y > level { 0.0 } else { old.length() });
        let (from, to) = (along((level + BEND).min(foot - 5.0)), along((level - BEND).max(self.nape.y)));
        let direction = |at: f64| old.direction_at(at);
        let upper = turned * old.point_at(to);
        let turned_up = |at: f64| (Affine::rotate(turn) * direction(at).to_point()).to_vec2();
        let bend = house_curve(old.point_at(from), direction(from), upper, turned_up(to)).curve;
        let below = old.between(0.0, from);
        let mut line = below.clone().then(bend);
        if to < old.length() - 1e-6 {
            line = line.then(old.between(to, old.length()).transformed(turned));
        }
        let nape = turned * self.nape;
        let mut line = line.with_end(nape);
        if pinned.iter().any(Option::is_some) {
            let at = |(share, by): (f64, Option<f64>)| {
                Some(Point::new(self.at_centre.x + by?, level + (nape.y - level) * share))
            };
            let points: Vec<Point> = SlashedBack::READ_AT.into_iter().zip(pinned).filter_map(at).collect();
            let ends = [(below.end(), direction(from)), (nape, turned_up(old.length()))];
            line = below.then(through(ends, &points));
        }
        replace_centre(&mut back, Edge::sewn(Seam::CentreBack, line));
        back
    }

    /// Centre back straight on the fold: the neckline reaches it level, and a dart takes up what was added.
    fn with_neck_dart(&self, mut back: Piece, turn: f64) -> Result<Piece, AlterError> {
        let nape = Affine::rotate_about(turn, self.inner_hinge) * self.nape;
        let top = Point::new(0.0, nape.y);
        let foot = back.first_edge(Seam::CentreBack).map_or(Point::ZERO, |i| back.edges[i].curve.start());
        // As long as it is from the nape: the fold pulls its start along when the centre is drawn.
        let neckline = back.first_edge(Seam::Neckline).ok_or_else(|| AlterError::no_seam(Seam::Neckline))?;
        let old = back.edges[neckline].curve.clone();
        replace_centre(&mut back, Edge::on_fold(Seam::CentreBack, Curve::line(foot, top)));
        let neckline = back.first_edge(Seam::Neckline).ok_or_else(|| AlterError::no_seam(Seam::Neckline))?;
        let extension = nape.x;
        let whole = Curve::line(top, nape).then(old.clone());
        let middle = extension + NECK_DART_AT * old.length();
        // Taken up along the line, so that the neckline is sewn exactly as long as before.
        let (from, to) = (middle - extension / 2.0, middle + extension / 2.0);
        if from < extension / 4.0 || to > whole.length() - 5.0 {
            return Err(AlterError::not_here(
                "so much does not fit into a neck dart: choose the centre-back seam",
            ));
        }
        let (first, second) = (whole.point_at(from), whole.point_at(to));
        let square = crate::geometry::quarter_turn((second - first) / first.distance(second));
        let pivot = first.midpoint(second) + square * NECK_DART_LONG;
        let (before, after) =
            (whole.between(0.0, from).with_end(first), whole.split(to).1.with_start(second));
        back.edges.splice(
            neckline..=neckline,
            [
                Edge::sewn(Seam::Neckline, before),
                Edge::leg(DartPlace::Neckline, first, pivot),
                Edge::leg(DartPlace::Neckline, pivot, second),
                Edge::sewn(Seam::Neckline, after),
            ],
        );
        back.darts.push(Dart { place: DartPlace::Neckline, pivot, point: pivot });
        Ok(back)
    }

    /// Up to the shoulder slash everything shifts straight up; the outer part turns about the hinge.
    fn to_shoulder_dart(
        &self,
        back: &Piece,
        by: f64,
        style: Style,
    ) -> Result<(Slash, Piece, Piece), AlterError> {
        let shoulder = match Cut::along(back, DartPlace::Shoulder) {
            Some(cut) => cut,
            None => Cut::at(super::pivot::on_seam(back, Seam::Shoulder, 0.5)?),
        };
        let old_mouth = back.mouth(DartPlace::Shoulder).map_or(0.0, |(a, b)| a.distance(b));
        let grown = |by: f64| {
            self.shoulder_slash(back, &shoulder, by).map_or(f64::NAN, |(slash, pivot)| {
                slash.apply(back).map_or(f64::NAN, |piece| signed_mouth(&piece, pivot) - old_mouth)
            })
        };
        if grown(by) > SHOULDER_DART_GROWS {
            let limit = root(|by| grown(by) - SHOULDER_DART_GROWS, 0.0, by).unwrap_or_default();
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                by,
                limit,
                "that the shoulder dart takes before it grows by more than 12 mm",
                "put the rest in the centre-back seam or a neck dart",
            ));
        }
        if old_mouth + grown(by) < 0.5 {
            let limit = root(|by| old_mouth + grown(by) - 0.5, by, 0.0).unwrap_or_default();
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                -by,
                limit,
                "that the shoulder dart can give up",
                "take the rest out at the centre-back seam",
            ));
        }
        let (slash, pivot) = self.shoulder_slash(back, &shoulder, by).ok_or_else(|| {
            AlterError::not_here("the back opens only so far at its hinge: a smaller amount")
        })?;
        let taped = slash.apply(back)?;
        let trued = with_shoulder_dart(taped.clone(), pivot, back.sewn_length(Seam::Shoulder));
        Ok((slash, taped, trued))
    }

    /// The slash of the third school, and the pivot of the dart it leaves.
    fn shoulder_slash(&self, back: &Piece, shoulder: &Cut, by: f64) -> Option<(Slash, Point)> {
        let mid = back
            .mouth(DartPlace::Shoulder)
            .map_or_else(|| shoulder.point(back), |(first, second)| first.midpoint(second));
        let blade = Point::new(mid.x.min(self.hinge.x - 30.0), self.hinge.y);
        let reach = self.hinge.x - blade.x;
        if by.abs() >= reach {
            return None;
        }
        // Straight up on a straight centre; along it where the block shapes it.
        let up = back.edges[self.centre.edge].curve.direction_at(self.centre.along) * by;
        let pivot = blade + up;
        let inner =
            Part { from: self.centre, to: shoulder.before, inner: vec![blade], motion: Motion::Shift(up) };
        let outer = Part {
            from: shoulder.after,
            to: self.armhole,
            inner: vec![blade],
            motion: Motion::Turn { about: self.hinge, by: (by / reach).asin() },
        };
        let lower =
            Part { from: self.armhole, to: self.centre, inner: vec![self.at_centre], motion: Motion::Still };
        let slash = Slash {
            parts: vec![
                (lower, if by < 0.0 { Join::Lap } else { Join::Gap(Seam::CentreBack) }),
                (inner, Join::Dart(DartPlace::Shoulder, pivot)),
                (outer, Join::Meet),
            ],
        };
        Some((slash, pivot))
    }
}

/// A smooth line from one end to the other, each with its direction, through the points between: at each of them it runs along
/// the chord of its neighbours.
fn through([from, to]: [(Point, Vec2); 2], points: &[Point]) -> Curve {
    let unit = |way: Vec2| way / way.hypot();
    let places: Vec<Point> = std::iter::once(from.0).chain(points.iter().copied()).chain([to.0]).collect();
    let mut knots = vec![(from.0, unit(from.1))];
    knots.extend(places.windows(3).map(|three| (three[1], unit(three[2] - three[0]))));
    knots.push((to.0, unit(to.1)));
    let bend = |two: &[(Point, Vec2)]| {
        let ((start, out), (end, on)) = (two[0], two[1]);
        let handle = start.distance(end) / 3.0;
        Curve::cubic(start, start + out * handle, end - on * handle, end)
    };
    let mut bends = knots.windows(2).map(bend);
    let first = bends.next().unwrap_or_else(|| Curve::line(from.0, to.0));
    bends.fold(first, Curve::then)
}

/// The mouth of the shoulder dart, negative where its ends have crossed.
fn signed_mouth(piece: &Piece, pivot: Point) -> f64 {
    piece.mouth(DartPlace::Shoulder).map_or(0.0, |(first, second)| {
        let turn = turn_degrees(first - pivot, second - pivot);
        first.distance(second).copysign(turn)
    })
}

fn replace_centre(piece: &mut Piece, edge: Edge) {
    piece.edges.retain(|old| old.seam != Seam::CentreBack);
    let end = edge.curve.end();
    piece.edges.push(edge);
    if let Some(first) = piece.edges.first_mut() {
        first.curve = first.curve.clone().with_start(end);
    }
}

fn words(finish: Finish, by: f64, style: Style) -> [(StageKind, String); 5] {
    let amount = style.with_unit(by.abs());
    let opens = if by > 0.0 { "opens" } else { "laps" };
    let (mark, movement, fill, true_up) = match finish {
        Finish::ShoulderDart => (
            "Rule level from the centre back to the armhole, and from the shoulder to the blade point on that line.",
            format!(
                "Shift the inner part straight up until the centre back {opens} by {amount}; swing the outer part about the \
                 hinge to follow it."
            ),
            "Tape paper behind; the shoulder dart takes what opened.",
            "Draw the shoulder dart to its point with equal legs; smooth the armhole at the hinge.",
        ),
        Finish::NeckDart => (
            "Rule level from the centre back to the armhole: the hinge is on its stitching line.",
            format!("Swing the upper part about the hinge until the centre back {opens} by {amount}."),
            "Rule the centre back straight on to the top; bring the neckline level to it.",
            "Take what the neckline gained into a dart, 75 mm long, a little under half-way along it; smooth neckline and \
             armhole.",
        ),
        Finish::Seam => (
            "Rule level from the centre back to the armhole: the hinge is on its stitching line.",
            format!("Swing the upper part about the hinge until the centre back {opens} by {amount}."),
            "Tape paper behind the opening.",
            "Draw the centre back as a seam: straight, over a curve at the slash, and on in the upper part's direction. Cut \
             two; smooth the armhole at the hinge.",
        ),
    };
    [
        (StageKind::Mark, mark.to_owned()),
        (StageKind::Cut, "Cut to the armhole's stitching line and not through it.".to_owned()),
        (StageKind::Move, movement),
        (StageKind::Fill, fill.to_owned()),
        (StageKind::True, true_up.to_owned()),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    fn level(hinge: Point, inner_hinge: Point, at_centre: Point, nape: Point) -> Level {
        let place = Place::start_of(0);
        Level { centre: place, armhole: place, hinge, inner_hinge, in_the_way: None, at_centre, nape }
    }

    /// Worked figures (handbook: `alterations.md`, section 4).
    #[test]
    fn the_nape_goes_where_the_worked_figure_says() {
        let hinge = Point::new(165., 110.);
        let cut = level(hinge, hinge, (0., 110.).into(), (0., 20.).into());
        let turn = cut.turn(20.0);
        assert!((turn.to_degrees() - 6.962).abs() < 5e-4, "{}", turn.to_degrees());
        let turned = Affine::rotate_about(turn, cut.hinge);
        assert!((turned * cut.nape).distance((12.126, 0.664).into()) < 1e-3, "{:?}", turned * cut.nape);
        assert!((turned * cut.at_centre).distance((1.217, 90.0).into()) < 1e-3);
    }

    /// Worked figures (handbook: `alterations.md`, section 4): through the shoulder dart.
    #[test]
    fn a_cut_through_the_shoulder_dart_goes_as_the_worked_figure_says() {
        let at = |x: f64, y: f64| Point::new(x, y);
        let (nape, a, pivot, b) = (at(0., 20.), at(132.953, 21.5), at(117.408, 105.066), at(144.566, 24.522));
        let line = |seam, from, to| Edge::sewn(seam, Curve::line(from, to));
        // The armhole passes through the hinge (188, 92).
        let armhole = Curve::polyline(&[at(200., 50.), at(188., 92.), at(235., 205.)]).unwrap();
        let back = Piece {
            darts: vec![Dart { place: DartPlace::Shoulder, pivot, point: pivot }],
            ..Piece::bare(
                crate::pattern::PieceKind::BODICE_BACK,
                vec![
                    line(Seam::Neckline, nape, at(70., 0.)),
                    line(Seam::Shoulder, at(70., 0.), a),
                    Edge::leg(DartPlace::Shoulder, a, pivot),
                    Edge::leg(DartPlace::Shoulder, pivot, b),
                    line(Seam::Shoulder, b, at(200., 50.)),
                    Edge::sewn(Seam::Armhole, armhole),
                    line(Seam::Side, at(235., 205.), at(210., 420.)),
                    line(Seam::Waist, at(210., 420.), at(0., 420.)),
                    Edge::on_fold(Seam::CentreBack, Curve::line(at(0., 420.), nape)),
                ],
                (at(40., 150.), at(40., 400.)),
            )
        };
        let cut = Level::mark(&back, Some(82.189 - 20.0)).unwrap();
        assert!(
            cut.hinge.distance(at(188., 92.)) < 2e-3 && cut.inner_hinge.distance(at(185.457, 82.189)) < 2e-3
        );
        assert!((cut.turn(16.0).to_degrees() - 4.949).abs() < 1e-3);
        let after = cut.slash(16.0, Style::TENTHS).unwrap().apply(&back).unwrap();
        assert!(after.centre_top().distance(at(6.057, 4.232)) < 2e-3, "{:?}", after.centre_top());
        let (first, second) = after.mouth(DartPlace::Shoulder).unwrap();
        assert!(first.distance(at(138.385, 17.197)) < 2e-3, "{first:?}");
        assert!(second.distance(at(150.550, 21.026)) < 2e-3, "{second:?}");
        assert!((first.distance(second) - 12.753).abs() < 2e-3);
        let legs = [first.distance(pivot), second.distance(pivot)];
        assert!((legs[0] - legs[1]).abs() < 2e-3 && after.dart(DartPlace::Shoulder).unwrap().pivot == pivot);
        assert!(after.is_closed());
    }
}
