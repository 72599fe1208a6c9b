//! Back width: a slash from the shoulder to the waist spreads at the blades; the shoulder takes up what opens
//! there (handbook: `alterations.md`, section 2).

use kurbo::{Affine, Line, Point, Vec2};

use super::keeps::{Keeps, SIDES};
use super::pivot::{nearest_on_seam, on_seam, ray_on_seam};
use super::shoulder_dart::with_shoulder_dart;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::root;
use crate::geometry::turn_degrees;
use crate::pattern::{
    Cut, DartPlace, Join, LevelName, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash,
    across_level, dart_across,
};

/// A new shoulder dart is this long, in millimetres.
const DART_LONG: f64 = 75.0;
/// The shoulder dart keeps at least this opening, in degrees.
const LEAST_OPENING: f64 = 0.5;

const PARAMS: [Param; 1] = [Param::amount(
    "Wider",
    MeasuredOn::PerHalf,
    (-12.0, 25.0),
    "How much wider one half of the back becomes at the blades. Negative narrows.",
)];

const ABOUT: About = About {
    code: "back_width",
    name: "Back width",
    why: "The back strains (or stands in folds) across the blades while the shoulder fits.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Shoulder],
    wants: "the back is spread between shoulder and waist: this pattern has no whole back",
    layer: Layer::Fit,
};

/// The back wider or narrower at the blades.
pub(super) struct BackWidth;

impl Alteration for BackWidth {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.back().is_some_and(|back| {
            back.dart(DartPlace::Shoulder).is_some() || back.flat_length(Seam::Shoulder) > 60.0
        })
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let front =
            [PatternMeasure::NecklineFront, PatternMeasure::ShoulderFront, PatternMeasure::ArmholeFront];
        Keeps::exactly(&[&front, SIDES, &[PatternMeasure::CentreBack, PatternMeasure::Waist]])
            .within(1.0, &[&[PatternMeasure::NecklineBack, PatternMeasure::ArmholeBack]])
    }

    fn drawn_from(&self) -> f64 {
        // Waist darts are drawn anew.
        3.5
    }

    fn grows(&self, _: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        // The opening at the blade level is w; across back is measured on the turned armhole: tested by itself.
        Vec::new()
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let back = pattern.back()?;
        let at = blade_on_armhole(back)?;
        Some(Handle::new(back.kind, at, Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let back = pattern.back().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let by = args.per_half().0.mm();
        let (slash, taped, trued) = spread(back, by, style)?;
        let amount = style.part_with_unit(by.abs(), MeasuredOn::PerHalf.parts());
        let (open, takes) = if by > 0.0 { ("opens", "takes up") } else { ("laps", "gives up") };
        let mark = if back.level(LevelName::Waist).is_some() {
            "Rule from the middle of the shoulder straight down to the waist, at the side of the dart where one is in the way, and \
             level along the waist to the side seam: the hinge is there, on the stitching line."
        } else {
            "Rule from the middle of the shoulder straight down to the waist: the hinge is on the waist's stitching line, at the \
             side of the dart where one is in the way."
        };
        let words = [
            (
                StageKind::Mark,
                mark.to_owned(),
            ),
            (StageKind::Cut, "Cut from the shoulder to the hinge, not through it.".to_owned()),
            (StageKind::Move, format!("Swing the armhole part about the hinge until the cut {open} {amount} at the blades.")),
            (StageKind::Fill, format!("Tape paper behind; the shoulder dart {takes} what the shoulder gained.")),
            (
                StageKind::True,
                "Draw the shoulder dart with equal legs, fold it and rule the shoulder as long as before; draw the waist smooth."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::cut(back, slash, taped, trued)], &words))
    }
}

fn blade_on_armhole(back: &Piece) -> Option<Point> {
    let level = across_level(back);
    back.edges_of(Seam::Armhole).find_map(|edge| Some(edge.curve.point_at(edge.curve.crossing_level(level)?)))
}

/// The hinge on the waist straight below the top of the slash; where the line would run into a dart, the side end
/// of that dart.
fn waist_hinge(back: &Piece, top: Point) -> Result<Place, AlterError> {
    /// Nearer to a dart's leg than this the hinge goes to the dart's end, in millimetres.
    const NEAR: f64 = 3.0;
    let at = |place: Place| back.edges[place.edge].curve.point_at(place.along);
    let clear = |place: &Place| {
        dart_across(back, Line::new(top, at(*place)), |dart| dart.seam() == Seam::Waist).is_none()
    };
    let below = ray_on_seam(back, Seam::Waist, top, Vec2::new(0.0, 1.0)).filter(|place| {
        let length = back.edges[place.edge].curve.length();
        place.along > NEAR && place.along < length - NEAR
    });
    let waist_darts = back.edges.iter().enumerate().filter(|(_, edge)| edge.seam == Seam::Waist);
    let ends = waist_darts.map(|(edge, found)| Place { edge, along: found.curve.length() });
    let mut ends: Vec<Place> = ends.collect();
    // Not the centre's end: there the armhole part would take the grain along.
    ends.pop();
    ends.sort_by(|a, b| (at(*a).x - top.x).abs().total_cmp(&(at(*b).x - top.x).abs()));
    below.into_iter().chain(ends).find(clear).ok_or_else(|| AlterError::no_seam(Seam::Waist))
}

/// Where a back goes on below the waist the cut turns level there and ends at the side: its corner, and the hinge at the
/// waist's end on the side seam. What opens along the waist is filled, so that nothing below it moves.
fn level_at_waist(back: &Piece, top: Point) -> Result<Option<(Point, Place)>, AlterError> {
    let Some(level) = back.level(LevelName::Waist) else { return Ok(None) };
    let side_end = *level.points.last().ok_or_else(|| AlterError::no_seam(Seam::Waist))?;
    let below = Line::new(top, (top.x, top.y + 2000.0));
    let straight = level.points.windows(2).find_map(|pair| Line::new(pair[0], pair[1]).crossing_point(below));
    let straight = straight.ok_or_else(|| AlterError::no_seam(Seam::Waist))?;
    // Where the line would run into a dart: to that dart's end on the side.
    let dart = back.two_pointed.iter().find(|dart| {
        let width = dart.first.x..dart.second.x;
        width.contains(&straight.x)
            || Line::new(dart.upper, dart.second)
                .crossing_point(below)
                .is_some_and(|at| (dart.upper.y..dart.second.y).contains(&at.y))
    });
    let corner = dart.map_or(straight, |dart| dart.second);
    Ok(Some((corner, nearest_on_seam(back, Seam::Side, side_end)?)))
}

/// The cuts and the piece as it is taped; the shoulder dart's opening in degrees tells how far it can lap.
fn cut(back: &Piece, by: f64) -> Result<(Slash, Piece, Point), AlterError> {
    let shoulder = match Cut::along(back, DartPlace::Shoulder) {
        Some(cut) => cut,
        None => Cut::at(on_seam(back, Seam::Shoulder, 0.5)?),
    };
    let mouth = back.mouth(DartPlace::Shoulder);
    let top = mouth.map_or_else(|| shoulder.point(back), |(first, second)| first.midpoint(second));
    let below = level_at_waist(back, top)?;
    let hinge = match below {
        Some((_, at_side)) => at_side,
        None => waist_hinge(back, top)?,
    };
    let about = back.edges[hinge.edge].curve.point_at(hinge.along);
    let blade = across_level(back);
    let turn = (by / (about.y - blade)).asin();
    let old_pivot = back
        .dart(DartPlace::Shoulder)
        .map_or_else(|| Point::new(top.x, top.y + DART_LONG), |dart| dart.pivot);
    // The dart's pivot lies in the middle of what opened beside it.
    let pivot = old_pivot.midpoint(Affine::rotate_about(turn, about) * old_pivot);
    let down: Vec<Point> = { std::iter::once(old_pivot) }.chain(below.map(|(corner, _)| corner)).collect();
    let up: Vec<Point> = down.iter().rev().copied().collect();
    let still = Part { from: hinge, to: shoulder.before, inner: down, motion: Motion::Still };
    let moving =
        Part { from: shoulder.after, to: hinge, inner: up, motion: Motion::Turn { about, by: turn } };
    let slash = Slash { parts: vec![(still, Join::Dart(DartPlace::Shoulder, pivot)), (moving, Join::Meet)] };
    let taped = slash.apply(back)?;
    Ok((slash, taped, pivot))
}

/// The opening of the shoulder dart in degrees, negative where its ends have crossed.
fn opening(piece: &Piece, pivot: Point) -> f64 {
    piece
        .mouth(DartPlace::Shoulder)
        .map_or(0.0, |(first, second)| turn_degrees(first - pivot, second - pivot))
}

fn spread(back: &Piece, by: f64, style: Style) -> Result<(Slash, Piece, Piece), AlterError> {
    let room =
        |by: f64| cut(back, by).map_or(f64::NAN, |(_, taped, pivot)| opening(&taped, pivot) - LEAST_OPENING);
    if room(by) < 0.0 {
        let most = root(room, by, 0.0).unwrap_or_default();
        return Err(AlterError::beyond(
            style,
            MeasuredOn::PerHalf,
            -by,
            most,
            "that this shoulder dart can give up",
            "take the rest in at the centre back or the side seam",
        ));
    }
    let (slash, taped, pivot) = cut(back, by)?;
    let trued = with_shoulder_dart(taped.clone(), pivot, back.sewn_length(Seam::Shoulder));
    Ok((slash, taped, trued))
}
