//! Moving a dart from seam point to seam point: the angle stays, the mouth changes with the length of the
//! leg (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::keeps::{ARMHOLES, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::pivot::{mark_bust_line_at, on_seam, ray_on_seam};
use super::ways::{Body, FromDart, Ways, ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{
    Cut, DartPlace, Join, Pattern, PatternMeasure, Piece, Place, Seam, Slash, back_off_points, closing,
    true_closed_side, turned,
};

ways! {
    /// Where a dart opens.
    To {
        /// At the waist.
        Waist = "waist", "the waist";
        /// At the side, level with the pivot.
        Side = "side", "the side";
        /// Low on the side.
        French = "french", "low on the side";
        /// In the middle of the shoulder.
        Shoulder = "shoulder", "the middle of the shoulder";
        /// In the armhole.
        Armhole = "armhole", "the armhole";
        /// In the neckline.
        Neckline = "neckline", "the neckline";
        /// At the centre.
        Centre = "centre", "the centre";
    }
}

impl To {
    const fn place(self) -> DartPlace {
        match self {
            Self::Waist => DartPlace::Waist,
            Self::Side | Self::French => DartPlace::Side,
            Self::Shoulder => DartPlace::Shoulder,
            Self::Armhole => DartPlace::Armhole,
            Self::Neckline => DartPlace::Neckline,
            Self::Centre => DartPlace::Centre,
        }
    }
}

const PARAMS: [Param; 5] = [
    Param {
        default: Some(1.0),
        ..Param::share(
            "amount",
            "How much of the dart",
            (0.0, 1.0),
            None,
            "The share of the dart's angle that goes to the new place: 1 moves it whole.",
        )
    },
    Param::way("piece", "Which piece", Body::WAYS, "The piece the dart is in."),
    Param::way("from", "From", FromDart::WAYS, "The dart that closes."),
    Param::way("to", "To", To::WAYS, "Where the dart opens instead."),
    Param::share(
        "place",
        "Where on that seam",
        (0.05, 0.95),
        None,
        "As a share of the seam, from its upper or centre end. Left out, the usual place.",
    ),
];

/// A low side dart leaves the side this far down it, as a share.
const FRENCH: f64 = 0.8;

const ABOUT: About = About {
    code: "move_dart",
    name: "Move a dart",
    why: "The shaping is right but sits at the wrong seam, or one dart is too much for one place.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "this pattern has no dart of a bodice or a dress that reaches a seam",
    layer: Layer::Shape,
};

/// What it is told.
struct Params {
    /// The share of the dart's angle that moves.
    share: f64,
    piece: Body,
    from: DartPlace,
    to: DartPlace,
    /// Where on the new seam, as a share of it; none at the usual place.
    place: Option<f64>,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        let (from, to): (FromDart, To) = (args.choice("from"), args.choice("to"));
        Self {
            share: args.amount(),
            piece: args.choice("piece"),
            from: from.place(),
            to: to.place(),
            place: args.number("place").or_else(|| (to == To::French).then_some(FRENCH)),
        }
    }
}

/// Part or all of a dart moved to another seam.
pub(super) struct MoveDart;

/// Why there is no such piece: it was divided, or it is not in the pattern at all.
pub(super) fn not_whole(pattern: &Pattern, which: Body) -> AlterError {
    let name = which.name();
    match which.half_of(pattern) {
        Some(_) => AlterError::not_here(format!(
            "the {name} is divided, and its darts are sewn in the seam: draw the seam itself elsewhere, or take the line out first"
        )),
        None => AlterError::not_here("that piece is not in the pattern"),
    }
}

impl Alteration for MoveDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.pieces.iter().any(|piece| !piece.kind.is_skirt() && !piece.darts.is_empty())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, &[PatternMeasure::Waist]])
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, _: &Pattern, _: &Args<'_>) -> Option<Handle> {
        // The amount is a share: it is set, not dragged.
        None
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, _: Style) -> Result<Altered, AlterError> {
        let Params { share, piece: which, from, to, place } = Params::of(args);
        let piece = which.piece_of(pattern).ok_or_else(|| not_whole(pattern, which))?;
        let (slash, mut moved) = moved(piece, from, to, share, place)?;
        if from == DartPlace::Side && moved.dart(from).is_none() {
            true_closed_side(&mut moved);
        }
        let taped = slash.apply(&prepared(piece, to))?;
        let words = words(from, to, share);
        Ok(altered(pattern, &[PieceWork::cut(piece, slash, taped, moved)], &words))
    }
}

/// The usual place of a new dart on its seam, as a share from the seam's beginning.
fn usual_place(piece: &Piece, to: DartPlace, pivot: Point) -> Result<Place, AlterError> {
    let seam = seam_of(piece, to);
    let along = match to {
        DartPlace::Waist | DartPlace::WaistSide => {
            return ray_on_seam(piece, seam, pivot, Vec2::new(0.0, 1.0))
                .ok_or_else(|| AlterError::no_seam(seam));
        }
        DartPlace::Centre => {
            return ray_on_seam(piece, seam, pivot, Vec2::new(-1.0, 0.0))
                .ok_or_else(|| AlterError::no_seam(seam));
        }
        DartPlace::Side => {
            let level = piece.edges_of(seam).next().and_then(|edge| edge.curve.crossing_level(pivot.y));
            return match (piece.first_edge(seam), level) {
                (Some(edge), Some(along)) => Ok(Place { edge, along }),
                _ => on_seam(piece, seam, 0.3),
            };
        }
        DartPlace::Shoulder
        | DartPlace::Neckline
        | DartPlace::UnderBust
        | DartPlace::UnderBustSide
        | DartPlace::Elbow => 0.5,
        DartPlace::Armhole => 0.55,
    };
    on_seam(piece, seam, along)
}

/// The seam of a dart's place on this piece: a back's centre is the centre back.
fn seam_of(piece: &Piece, place: DartPlace) -> Seam {
    if place == DartPlace::Centre { piece.kind.centre() } else { place.seam() }
}

/// The share of a side seam above the waist: a piece that goes on below it has its side darts above it too.
fn above_waist(piece: &Piece, to: DartPlace) -> f64 {
    let (Some(waist), DartPlace::Side) = (piece.waist_at_side(), to) else { return 1.0 };
    let below: f64 =
        piece.edges_of(Seam::Side).last().map_or(0.0, |edge| edge.curve.length() - edge.curve.nearest(waist));
    1.0 - below / piece.flat_length(Seam::Side)
}

/// A dart at the centre parts it: below the dart the grain stays, the centre is a seam.
fn prepared(piece: &Piece, to: DartPlace) -> Piece {
    let mut piece = piece.clone();
    if to == DartPlace::Centre {
        let centre = piece.kind.centre();
        piece.edges.iter_mut().filter(|edge| edge.seam == centre).for_each(|edge| edge.fold = false);
        if let Some(pivot) = piece.bust_pivot() {
            let foot = piece.centre_waist().y;
            let x = piece.grain.0.x;
            piece.grain = (Point::new(x, pivot.y + (foot - pivot.y) * 0.25), Point::new(x, foot - 15.0));
        }
    }
    piece
}

/// A dart, or a share of it, turned to another place: the cuts and the piece, points backed off.
///
/// # Errors
///
/// [`AlterError::NotHere`] where there is no such dart, or one at the new place that points elsewhere.
pub(super) fn moved(
    piece: &Piece,
    from: DartPlace,
    to: DartPlace,
    share: f64,
    place: Option<f64>,
) -> Result<(Slash, Piece), AlterError> {
    // Along its own seam a dart moves whole: two side darts would be one too many.
    let along_its_seam = from == to && place.is_some() && share >= 1.0;
    if from == to && !along_its_seam {
        return Err(AlterError::not_here("the dart is there already: choose another place"));
    }
    let dart = piece.dart(from).ok_or_else(|| {
        AlterError::not_here(format!(
            "the {} has no {} to move: choose a dart that is there",
            piece.kind.name().to_lowercase(),
            from.name()
        ))
    })?;
    let pivot = dart.pivot;
    let old = Cut::along(piece, from).ok_or_else(|| AlterError::no_seam(Seam::DartLeg))?;
    let turn = old.dart.map_or(0.0, |(_, opening)| opening) * share;
    let there = piece.dart(to).filter(|_| place.is_none());
    let new = match there {
        Some(other) if other.pivot.distance(pivot) > 1.0 => {
            return Err(AlterError::not_here(format!(
                "the {} points elsewhere: bring both darts to one bust point first",
                to.name()
            )));
        }
        Some(_) => Cut::along(piece, to).ok_or_else(|| AlterError::no_seam(Seam::DartLeg))?,
        None if piece.dart(to).is_some() && !along_its_seam => {
            return Err(AlterError::not_here(format!("there is a {} already", to.name())));
        }
        None => Cut::at(match place {
            Some(share) => on_seam(piece, seam_of(piece, to), share * above_waist(piece, to))?,
            None => usual_place(piece, to, pivot)?,
        }),
    };
    turned_to(piece, pivot, turn, old, (new, to))
}

/// So much of a dart's angle, in radians, turned about its pivot from one cut to another: the cuts and the piece, points backed
/// off.
///
/// # Errors
///
/// [`AlterError::Slash`] where the new line runs through another dart.
pub(super) fn turned_to(
    piece: &Piece,
    pivot: Point,
    turn: f64,
    old: Cut,
    (new, to): (Cut, DartPlace),
) -> Result<(Slash, Piece), AlterError> {
    let slash = slash_between(pivot, turn, old, (new, to), to == DartPlace::Centre);
    let mut prepared = prepared(piece, to);
    mark_bust_line_at(&mut prepared, pivot);
    let mut after = slash.apply(&prepared)?;
    back_off_points(&mut after);
    Ok((slash, after))
}

/// The region between old dart and new line, without the centre line, closes the one and opens the other.
fn slash_between(pivot: Point, turn: f64, old: Cut, (new, to): (Cut, DartPlace), at_centre: bool) -> Slash {
    let opening = Join::Dart(to, pivot);
    let is_later = |a: &Cut, b: &Cut| (a.before.edge, a.before.along) > (b.before.edge, b.before.along);
    let closed = closing(&old, turn, pivot);
    if at_centre {
        // From the new line at the centre on over neck and side to the old dart: what lies below stays.
        return turned(pivot, turn, (new, opening), (old, closed));
    }
    if is_later(&new, &old) {
        turned(pivot, -turn, (old, closed), (new, opening))
    } else {
        turned(pivot, turn, (new, opening), (old, closed))
    }
}

fn words(from: DartPlace, to: DartPlace, share: f64) -> [(StageKind, String); 5] {
    let (from, seam) = (from.name(), to.seam().name());
    let how = if share >= 1.0 { "shut" } else { "partly shut" };
    [
        (StageKind::Mark, format!("Rule a line from the {seam} to the pivot of the {from}.")),
        (
            StageKind::Cut,
            format!("Cut along it to the pivot, and along the {from} to the pivot, not through it."),
        ),
        (StageKind::Move, format!("Fold the {from} {how}: the new line opens by the same angle.")),
        (StageKind::Fill, "Tape paper behind the new opening.".to_owned()),
        (
            StageKind::True,
            "Draw the new dart to its point, backed off from the pivot; fold it and draw the seam across it."
                .to_owned(),
        ),
    ]
}

/// Angles of the darts at a pivot, added up, in radians: what moving keeps.
#[cfg(test)]
fn angles(piece: &Piece) -> f64 {
    let of = |dart: &crate::pattern::Dart| Cut::along(piece, dart.place)?.dart.map(|(_, opening)| opening);
    piece.darts.iter().filter_map(of).sum()
}

#[cfg(test)]
mod tests {
    use kurbo::Affine;

    use super::*;
    use crate::geometry::Curve;
    use crate::pattern::{Dart, Edge, PieceKind};

    /// A square front with a side dart: leg 254, mouth 38.1 (check values, section 6: 8.602°).
    fn darted() -> Piece {
        let pivot = Point::new(90.0, 265.0);
        let half = (19.05f64 / 254.0).asin();
        let leg = |by: f64| Affine::rotate_about(by, pivot) * Point::new(344.0, 265.0);
        let (upper, lower) = (leg(-half), leg(half));
        let line = |seam, a: Point, b: Point| Edge::sewn(seam, Curve::line(a, b));
        let (top, bottom) = (Point::new(upper.x, 100.0), Point::new(lower.x, 430.0));
        Piece {
            darts: vec![Dart { place: DartPlace::Side, pivot, point: pivot }],
            ..Piece::bare(
                PieceKind::BODICE_FRONT,
                vec![
                    line(Seam::Neckline, (0., 60.).into(), (70., 0.).into()),
                    line(Seam::Shoulder, (70., 0.).into(), (190., 40.).into()),
                    line(Seam::Armhole, (190., 40.).into(), top),
                    line(Seam::Side, top, upper),
                    Edge::leg(DartPlace::Side, upper, pivot),
                    Edge::leg(DartPlace::Side, pivot, lower),
                    line(Seam::Side, lower, bottom),
                    line(Seam::Waist, bottom, (0., 430.).into()),
                    Edge::on_fold(Seam::CentreFront, Curve::line((0., 430.).into(), (0., 60.).into())),
                ],
                ((30., 100.).into(), (30., 400.).into()),
            )
        }
    }

    #[test]
    fn moving_keeps_the_angle_and_not_the_mouth() {
        let piece = darted();
        let before = angles(&piece);
        assert!((before.to_degrees() - 8.602).abs() < 5e-4);
        for to in [
            DartPlace::Waist,
            DartPlace::Shoulder,
            DartPlace::Armhole,
            DartPlace::Neckline,
            DartPlace::Centre,
        ] {
            let (_, moved) = moved(&piece, DartPlace::Side, to, 1.0, None).unwrap();
            assert!(moved.is_closed() && moved.dart(DartPlace::Side).is_none(), "{to:?}");
            assert!((angles(&moved) - before).abs() < 1e-9, "{to:?}");
            let (first, second) = moved.mouth(to).unwrap();
            let leg = first.distance(moved.dart(to).unwrap().pivot);
            let mouth = 2.0 * leg * (before / 2.0).sin();
            assert!((first.distance(second) - mouth).abs() < 1e-6, "{to:?}");
            assert_eq!(moved.edges_of(Seam::CentreFront).all(|edge| edge.fold), to != DartPlace::Centre);
        }
    }

    #[test]
    fn a_side_dart_goes_low_along_its_own_seam_but_only_whole() {
        let piece = darted();
        let (_, low) = moved(&piece, DartPlace::Side, DartPlace::Side, 1.0, Some(FRENCH)).unwrap();
        assert!(low.is_closed() && low.darts.len() == 1);
        assert!((angles(&low) - angles(&piece)).abs() < 1e-9);
        let middle = |piece: &Piece| piece.mouth(DartPlace::Side).map(|(a, b)| a.midpoint(b).y).unwrap();
        assert!(middle(&low) > middle(&piece) + 60.0, "{} from {}", middle(&low), middle(&piece));
        assert!(moved(&piece, DartPlace::Side, DartPlace::Side, 0.5, Some(FRENCH)).is_err());
    }

    #[test]
    fn a_share_stays_behind() {
        let (_, moved) = moved(&darted(), DartPlace::Side, DartPlace::Waist, 0.25, None).unwrap();
        assert_eq!(moved.darts.len(), 2);
        assert!((angles(&moved) - angles(&darted())).abs() < 1e-9);
    }
}
