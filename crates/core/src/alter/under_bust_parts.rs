//! A front or a back parted across under the bust: the upper part keeps what the waist dart shapes, in the band the dart is
//! closed (handbook: `wishes.md`, section 3).

use kurbo::{Affine, Line, Point, Vec2};

use super::{AlterError, Measured, MeasuredOn};
use crate::Style;
use crate::geometry::{Curve, house_curve, quarter_turn, turn_degrees};
use crate::pattern::{Covers, Dart, DartPlace, Edge, Gather, Notch, Piece, Seam, Share, back_off_points};

/// A dart shorter than this does not sew: it is eased in, in millimetres (common practice, no source).
const LEAST_DART_LONG: f64 = 40.0;
/// The band is at least so high at the dart and at the side, in millimetres.
const LEAST_BAND: f64 = 15.0;
/// Notches of gathers keep so far from both ends of the seam, in millimetres.
const LEAST_BESIDE_NOTCH: f64 = 15.0;
/// The seam meets the side at least so far below a side dart, and so far below the underarm where there is none: running
/// straight on it may come higher, and is led down to there.
const BELOW_SIDE_DART: f64 = 15.0;
const BELOW_UNDERARM: f64 = 40.0;
/// With a side dart above it the seam dips at most so far, in millimetres.
const MOST_DIP: f64 = 12.0;
/// The grain line keeps so far from the seam, in millimetres, and is at least so long.
const GRAIN_FROM_SEAM: f64 = 15.0;
const LEAST_GRAIN: f64 = 10.0;
/// Further than any piece reaches across, in millimetres.
const ACROSS: f64 = 2000.0;

/// Where the seam meets the side.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum AtSide {
    /// Where it comes to running straight on, or as far below a side dart or the underarm as it must.
    StraightOn,
    /// So far above the waist along the side seam, in millimetres.
    AboveWaist(f64),
}

/// What becomes of the dart in the upper part.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum UpperDart {
    /// It stays a dart. One that is too short for that is eased in.
    Kept,
    /// It is drawn in as gathers.
    Gathered,
}

/// What is asked of the seam on one half.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Asked {
    /// The level it has at the centre, in the piece's own coordinates.
    pub(super) level: f64,
    pub(super) at_side: AtSide,
    pub(super) upper_dart: UpperDart,
    /// How far from the dart the gathers end on either side of it, in millimetres.
    pub(super) notches: f64,
}

/// A parted half, and what there is to say of it.
#[derive(Clone, Debug)]
pub(super) struct PartedAcross {
    pub(super) upper: Piece,
    pub(super) band: Piece,
    /// The seam as it is drawn on the whole piece: from the centre, and beyond each dart on to the side.
    pub(super) drawn: Vec<Curve>,
    /// The seam as it lies with the darts closed.
    pub(super) closed: Curve,
    /// What is drawn in over it, in millimetres; nothing where darts stay, or none is crossed.
    pub(super) gathers: f64,
    /// Along the side from the seam down to the waist, in millimetres.
    pub(super) side_below: f64,
}

/// A waist dart where the seam goes through it: at one length on both legs.
struct Crossed {
    /// The first leg's edge, the side's.
    leg: usize,
    pivot: Point,
    /// Where the seam meets the leg towards the centre, and the one towards the side.
    centre: Point,
    side: Point,
    /// From the pivot to there, and the shorter leg's rest below it, in millimetres.
    long: f64,
    rest: f64,
    /// The turn from the centre's leg to the side's, in radians.
    turn: f64,
}

impl Crossed {
    /// `None` where a seam from a point on its way runs above the dart.
    fn of(piece: &Piece, place: DartPlace, (from, way): (Point, Vec2)) -> Option<Self> {
        let leg = piece.first_leg(place)?;
        let (side, centre) = piece.mouth(place)?;
        let pivot = piece.dart(place)?.pivot;
        let (to_side, to_centre) = (side - pivot, centre - pivot);
        let (along_side, along_centre) = (to_side / to_side.hypot(), to_centre / to_centre.hypot());
        let long = way.cross(pivot - from) / -way.cross(along_centre);
        (long > 0.0).then(|| Self {
            leg,
            pivot,
            centre: pivot + along_centre * long,
            side: pivot + along_side * long,
            long,
            rest: to_side.hypot().min(to_centre.hypot()) - long,
            turn: turn_degrees(along_centre, along_side).to_radians(),
        })
    }

    /// What brings what lies beyond it to the centre's part.
    fn closing(&self) -> Affine {
        Affine::rotate_about(-self.turn, self.pivot)
    }

    /// A direction across the closed dart, as it runs on beyond it while the dart is open.
    fn onwards(&self, way: Vec2) -> Vec2 {
        (Affine::rotate(self.turn) * way.to_point()).to_vec2()
    }

    /// Whether it stays a dart in the upper part.
    fn stays(&self, asked: &Asked) -> bool {
        asked.upper_dart == UpperDart::Kept && self.long >= LEAST_DART_LONG
    }
}

/// Names of the darts that stay in the upper part, the one nearest to the centre first.
const UPPER_PLACES: [DartPlace; 2] = [DartPlace::UnderBust, DartPlace::UnderBustSide];

/// The seam on one half, before it is cut.
struct SeamAcross {
    /// The darts it goes through, the one nearest to the centre first.
    crossed: Vec<Crossed>,
    /// Its stretches, from the centre to the first dart, between darts, and on to the side.
    parts: Vec<Curve>,
    /// The last edge of the side seam, and where the seam meets it.
    side_edge: usize,
    along_side: f64,
    /// Where it meets the centre line, which is the last edge.
    along_centre: f64,
}

/// Parts a piece that ends at the waist.
///
/// # Errors
///
/// [`AlterError::NotHere`] with what is in the way and the way out.
pub(super) fn part_across(piece: &Piece, asked: &Asked, style: Style) -> Result<PartedAcross, AlterError> {
    let seam = SeamAcross::of(piece, asked, style)?;
    let opened = seam.opened(piece, asked, style)?;
    Ok(PartedAcross {
        upper: seam.upper(piece, &opened, asked, style)?,
        band: seam.band(piece, &opened),
        closed: seam.closed(),
        gathers: opened.iter().filter_map(|dart| Some(dart.join.as_ref()?.length())).sum(),
        side_below: to_the_thousandth(piece.edges[seam.side_edge].curve.length() - seam.along_side),
        drawn: seam.parts,
    })
}

/// What becomes of a crossed dart in the upper part.
struct Opened {
    /// What joins both its ends where it is drawn in; none where it stays a dart.
    join: Option<Curve>,
    /// How far from it, towards the side and towards the centre, the notches lie. A dart that stays is met by one notch.
    notches: [f64; 2],
    /// How much of the sewn seam lies between it and the side, in millimetres.
    from_side: f64,
}

fn half_name(piece: &Piece) -> &'static str {
    if piece.kind.covers() == Covers::Back { "back" } else { "front" }
}

impl SeamAcross {
    fn of(piece: &Piece, asked: &Asked, style: Style) -> Result<Self, AlterError> {
        let half = half_name(piece);
        let too_high = || {
            AlterError::not_here(format!(
                "a seam there does not meet the centre of the {half} between its neckline and its waist: another height"
            ))
        };
        let centre_line = &piece.edges.last().ok_or_else(too_high)?.curve;
        let along_centre = centre_line.crossing_level(asked.level).ok_or_else(too_high)?;
        let (mut from, mut way) = (centre_line.point_at(along_centre), square_to_centre(piece, along_centre));
        let (mut crossed, mut parts) = (Vec::new(), Vec::new());
        for place in [DartPlace::Waist, DartPlace::WaistSide] {
            let Some(dart) = Crossed::of(piece, place, (from, way)) else { continue };
            if dart.rest < LEAST_BAND {
                return Err(too_low(half, "at the waist dart", dart.rest, style));
            }
            parts.push(Curve::line(from, dart.centre));
            (from, way) = (dart.side, dart.onwards(way));
            crossed.push(dart);
        }
        let side_edge = piece.last_edge(Seam::Side).ok_or_else(|| AlterError::no_seam(Seam::Side))?;
        let side = &piece.edges[side_edge].curve;
        let has_dart_above = piece.length_before(side_edge, Seam::Side) > 0.0;
        let least = if has_dart_above { BELOW_SIDE_DART } else { BELOW_UNDERARM };
        let along_side = match asked.at_side {
            AtSide::AboveWaist(mm) => side.length() - mm,
            AtSide::StraightOn => {
                side.crossing(Line::new(from, from + way * ACROSS)).map_or(least, |along| along.max(least))
            }
        };
        if along_side < 0.0 {
            return Err(AlterError::not_here(format!(
                "the side of the {half} is too short for a seam as far above its waist as on the other half: balance the sides first, or a \
                 lower seam"
            )));
        }
        if side.length() - along_side < LEAST_BAND {
            return Err(too_low(half, "at the side", side.length() - along_side, style));
        }
        let square = -quarter_turn(side.direction_at(along_side));
        parts.push(house_curve(from, way, side.point_at(along_side), square).curve);
        let seam = Self { crossed, parts, side_edge, along_side, along_centre };
        let dip = seam.dips(asked.level);
        if has_dart_above && dip > MOST_DIP {
            return Err(AlterError::not_here(format!(
                "under the side dart the seam dips by {} towards the side, at most {}: turn that dart into the fullness, or a lower seam",
                style.with_unit(dip),
                style.with_unit(MOST_DIP)
            )));
        }
        Ok(seam)
    }

    /// What brings what lies beyond so many darts to the centre's part, all of them closed.
    fn closing(&self, beyond: usize) -> Affine {
        self.crossed[..beyond].iter().fold(Affine::IDENTITY, |all, dart| all * dart.closing())
    }

    /// With the darts closed, from the centre to the side.
    fn closed(&self) -> Curve {
        let laid = self.parts.iter().enumerate().map(|(beyond, part)| part.transformed(self.closing(beyond)));
        let joined = laid.reduce(|seam, part| {
            let end = seam.end();
            seam.then(part.with_start(end))
        });
        joined.unwrap_or_else(|| self.parts[0].clone())
    }

    /// How far the closed seam lies below its level at the centre, in millimetres.
    fn dips(&self, level: f64) -> f64 {
        self.closed().flattened(0.1).iter().map(|point| point.y - level).fold(0.0, f64::max)
    }

    /// What becomes of the crossed darts in the upper part, the one nearest to the centre first.
    fn opened(&self, piece: &Piece, asked: &Asked, style: Style) -> Result<Vec<Opened>, AlterError> {
        let last = self.crossed.len();
        let mut way = square_to_centre(piece, self.along_centre);
        let mut all = Vec::new();
        for (index, dart) in self.crossed.iter().enumerate() {
            let back = -way;
            way = dart.onwards(way);
            let beside = [index + 1, index].map(|part| {
                // Two darts share what lies between them.
                let is_end = part == 0 || part == last;
                let long = self.parts[part].length();
                if is_end { long - LEAST_BESIDE_NOTCH } else { long / 2.0 }
            });
            let from_side = self.parts[index + 1..].iter().map(Curve::length).sum();
            if dart.stays(asked) {
                all.push(Opened { join: None, notches: [0.0; 2], from_side });
                continue;
            }
            let most = beside[0].min(beside[1]);
            if asked.upper_dart == UpperDart::Gathered && asked.notches > most && last == 1 {
                return Err(AlterError::not_here(format!(
                    "on the {} gathers that end {} from the dart come nearer than {} to an end of the seam: at most {}",
                    half_name(piece),
                    style.with_unit(asked.notches),
                    style.with_unit(LEAST_BESIDE_NOTCH),
                    style.with_unit(most.max(0.0))
                )));
            }
            all.push(Opened {
                join: Some(house_curve(dart.side, -way, dart.centre, back).curve),
                notches: beside.map(|beside| asked.notches.min(beside).max(0.0)),
                from_side,
            });
        }
        Ok(all)
    }

    /// What lies above it.
    fn upper(
        &self,
        piece: &Piece,
        opened: &[Opened],
        asked: &Asked,
        style: Style,
    ) -> Result<Piece, AlterError> {
        let seam = |curve| Edge::sewn(Seam::UnderBust, curve);
        let mut edges: Vec<Edge> = piece.edges[..self.side_edge].to_vec();
        edges.push(self.of_side(piece, |side| side.split(self.along_side).0));
        let mut upper = Piece { gathers: Vec::new(), notches: Vec::new(), ..piece.clone() };
        self.share_marks(piece, &mut upper, style)?;
        // Travelled from the side to the centre; what is drawn in before a place lies between it and the side.
        let mut drawn_in = 0.0;
        let mut line = self.parts[self.crossed.len()].reversed();
        for (index, (dart, opened)) in self.crossed.iter().zip(opened).enumerate().rev() {
            let onwards = self.parts[index].reversed();
            let at = opened.from_side + drawn_in;
            match &opened.join {
                None => {
                    let place = UPPER_PLACES[index];
                    edges.push(seam(std::mem::replace(&mut line, onwards)));
                    edges.push(Edge::leg(place, dart.side, dart.pivot));
                    edges.push(Edge::leg(place, dart.pivot, dart.centre));
                    upper.darts.push(Dart { place, pivot: dart.pivot, point: dart.pivot });
                    upper.notches.push(notch(at));
                }
                Some(join) => {
                    line = line.then(join.clone()).then(onwards);
                    let [to_side, to_centre] = opened.notches;
                    upper.gathers.push(Gather {
                        seam: Seam::UnderBust,
                        from_underarm: at - to_side,
                        flat: to_side + join.length() + to_centre,
                        amount: join.length(),
                    });
                    drawn_in += join.length();
                    upper.notches.extend([at - to_side, at + join.length() + to_centre].map(notch));
                }
            }
        }
        edges.push(seam(line));
        edges.push(self.of_centre(piece, |line| line.split(self.along_centre).1));
        upper.edges = edges;
        upper.kind = piece.kind.as_share(Share::Upper);
        let has = |place| upper.edges.iter().any(|edge| edge.dart == Some(place));
        upper.darts.retain(|dart| has(dart.place));
        let level = asked.level - GRAIN_FROM_SEAM;
        upper.grain.1.y = upper.grain.1.y.min(level).max(upper.grain.0.y + LEAST_GRAIN);
        back_off_points(&mut upper);
        Ok(upper)
    }

    /// What lies below it, the darts it goes through closed.
    fn band(&self, piece: &Piece, opened: &[Opened]) -> Piece {
        let last = piece.edges.len() - 1;
        let mut beyond = self.crossed.len();
        let mut edges = vec![Edge::sewn(Seam::UnderBust, self.closed())];
        let side = self.of_side(piece, |side| side.split(self.along_side).1);
        edges.push(Edge { curve: side.curve.transformed(self.closing(beyond)), ..side });
        // The waist is travelled from the side to the centre: with each dart one closing less.
        for (index, edge) in piece.edges.iter().enumerate().take(last).skip(self.side_edge + 1) {
            let leg = beyond.checked_sub(1).map(|inner| self.crossed[inner].leg);
            if leg == Some(index) {
                continue;
            }
            let is_second = leg.is_some_and(|leg| leg + 1 == index);
            if is_second {
                beyond -= 1;
                continue;
            }
            let curve = edge.curve.transformed(self.closing(beyond));
            let follows = self.crossed.iter().any(|dart| dart.leg + 2 == index);
            match edges.last_mut() {
                Some(waist) if follows && waist.continues_in(edge) => {
                    let onwards = curve.with_start(waist.curve.end());
                    waist.curve = waist.curve.clone().then(onwards);
                }
                _ => edges.push(Edge { curve, ..edge.clone() }),
            }
        }
        edges.push(self.of_centre(piece, |line| line.split(self.along_centre).0));
        let has = |place| edges.iter().any(|edge| edge.dart == Some(place));
        let (top, foot) = (edges[0].curve.start(), edges[edges.len() - 1].curve.start());
        let grain_at = piece.grain.0.x.min(self.parts[0].length() * 0.6);
        let at = |share: f64| Point::new(grain_at, top.y + (foot.y - top.y) * share);
        let below = self.side_before(piece);
        let of_side = |notch: &&Notch| notch.seam == Seam::Side && notch.from_underarm > below;
        let mut notches: Vec<Notch> =
            piece.notches.iter().filter(|notch| notch.seam == Seam::Waist).copied().collect();
        let lower = |notch: &Notch| Notch { from_underarm: notch.from_underarm - below, ..*notch };
        notches.extend(piece.notches.iter().filter(of_side).map(lower));
        for dart in opened {
            match dart.join {
                None => notches.push(notch(dart.from_side)),
                Some(_) => {
                    let [to_side, to_centre] = dart.notches;
                    notches.extend([dart.from_side - to_side, dart.from_side + to_centre].map(notch));
                }
            }
        }
        let mut band = Piece {
            darts: piece.darts.iter().filter(|dart| has(dart.place)).cloned().collect(),
            gathers: piece.gathers.iter().filter(|gather| gather.seam == Seam::Waist).copied().collect(),
            notches,
            ..Piece::bare(piece.kind.as_share(Share::Band), edges, (at(0.15), at(0.85)))
        };
        back_off_points(&mut band);
        band
    }

    /// How much of the side seam lies above it, in millimetres.
    fn side_before(&self, piece: &Piece) -> f64 {
        piece.length_before(self.side_edge, Seam::Side) + self.along_side
    }

    /// The notches and gathers that lie above the seam.
    fn share_marks(&self, piece: &Piece, upper: &mut Piece, style: Style) -> Result<(), AlterError> {
        let below = self.side_before(piece);
        for gather in piece.gathers.iter().filter(|gather| gather.seam != Seam::Waist) {
            if gather.seam == Seam::Side && gather.from_underarm + gather.flat > below {
                return Err(AlterError::not_here(format!(
                    "what is eased into the side seam reaches {} below the underarm, across the seam: a lower seam, or sew that dart",
                    style.with_unit(gather.from_underarm + gather.flat)
                )));
            }
            upper.gathers.push(*gather);
        }
        let is_above = |notch: &&Notch| match notch.seam {
            Seam::Side => notch.from_underarm <= below,
            Seam::Waist => false,
            _ => true,
        };
        upper.notches = piece.notches.iter().filter(is_above).copied().collect();
        Ok(())
    }

    fn of_side(&self, piece: &Piece, part: impl Fn(&Curve) -> Curve) -> Edge {
        let edge = &piece.edges[self.side_edge];
        Edge { curve: part(&edge.curve), ..edge.clone() }
    }

    fn of_centre(&self, piece: &Piece, part: impl Fn(&Curve) -> Curve) -> Edge {
        let edge = &piece.edges[piece.edges.len() - 1];
        Edge { curve: part(&edge.curve), ..edge.clone() }
    }
}

/// Square to the centre line, towards the side: level, but on a back whose centre is shaped.
fn square_to_centre(piece: &Piece, along: f64) -> Vec2 {
    piece.edges.last().map_or(Vec2::new(1.0, 0.0), |edge| quarter_turn(edge.curve.direction_at(along)))
}

/// A length to a thousandth of a millimetre: the other half is parted by it, and is one piece for both sides where left and
/// right differ by less.
fn to_the_thousandth(mm: f64) -> f64 {
    (mm * 1e3).round() / 1e3
}

/// The band would be too low somewhere.
fn too_low(half: &str, place: &str, high: f64, style: Style) -> AlterError {
    let measured = |mm| Measured { mm, on: MeasuredOn::Here };
    let (band, least) = measured(high).written_beside(measured(LEAST_BAND), style);
    let leaves = if high <= 0.0 || style.is_alike(high, 0.0) {
        "no band".to_owned()
    } else {
        format!("a band only {band} high")
    };
    AlterError::not_here(format!(
        "the seam would leave the {half} {leaves} {place}: at least {least}, higher up, or a longer bodice"
    ))
}

fn notch(from_side: f64) -> Notch {
    Notch { seam: Seam::UnderBust, from_underarm: from_side, double: false }
}
