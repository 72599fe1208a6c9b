//! Back width: a slash from the shoulder to the waist spreads at the blades; the shoulder takes up what opens
//! there (handbook: `alterations.md`, section 2).

use kurbo::{Affine, Point, Vec2};

use super::keeps::{ARMHOLES, Keeps, SIDES};
use super::pivot::{Cut, on_seam};
use super::told::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Given, Handle, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::draft::root;
use crate::pattern::{
    Curve, DartPlace, Edge, Figure, GarmentPart, Join, Motion, Part, Pattern, Piece, Place, Seam, Slash,
    across_level, back_off_points, redraw_dart, redraw_shoulder, true_neck_side, turn_degrees,
};

/// A new shoulder dart is this long, in millimetres.
const DART_LONG: f64 = 75.0;
/// The neckline arrives square at the shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;

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
    wants: "the back is spread between shoulder and waist seam: this pattern has no bodice back",
};

/// The back wider or narrower at the blades.
pub(super) struct BackWidth;

impl Alteration for BackWidth {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.back().is_some_and(|back| {
            back.kind.part() == GarmentPart::BodiceBack
                && (back.dart(DartPlace::Shoulder).is_some() || back.flat_length(Seam::Shoulder) > 60.0)
        })
    }

    fn keeps(&self, _: &Given<'_>) -> Keeps {
        Keeps::exactly(&[
            ARMHOLES,
            SIDES,
            &[Figure::CentreBack, Figure::Waist, Figure::NecklineFront, Figure::ShoulderFront],
        ])
        .within(1.0, &[&[Figure::NecklineBack]])
    }

    fn grows(&self, _: &Given<'_>) -> Vec<(Figure, f64)> {
        // The opening at the blade level is w; across back is measured on the turned armhole: tested by itself.
        Vec::new()
    }

    fn grip(&self, pattern: &Pattern, _: &Given<'_>) -> Option<Handle> {
        let back = pattern.back()?;
        let at = blade_on_armhole(back)?;
        Some(Handle::new(back.kind, at, Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, given: &Given<'_>, style: Style) -> Result<Altered, AlterError> {
        let back = pattern.back().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let by = given.amount();
        let (slash, taped, trued) = spread(back, by, style)?;
        let amount = style.with_unit(by.abs());
        let (open, takes) = if by > 0.0 { ("opens", "takes up") } else { ("laps", "gives up") };
        let words = [
            (
                StageKind::Mark,
                "Rule from the middle of the shoulder straight down to the waist: the hinge is on the waist's stitching line, at \
                 the side of the dart where one is in the way."
                    .to_owned(),
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

/// The hinge on the waist below this x: the side end of the dart where the line would run into it.
fn waist_hinge(back: &Piece, x: f64) -> Result<Place, AlterError> {
    let waist: Vec<usize> = (0..back.edges.len()).filter(|&i| back.edges[i].seam == Seam::Waist).collect();
    let plumb = kurbo::Line::new((x, -1000.0), (x, 3000.0));
    for &edge in &waist {
        let curve = &back.edges[edge].curve;
        let (from, to) = (curve.start().x.max(curve.end().x), curve.start().x.min(curve.end().x));
        let is_side_of_dart = edge == waist[0] && waist.len() > 1;
        // Too near to the dart's leg the hinge goes to its end.
        if is_side_of_dart && x <= to + 3.0 {
            return Ok(Place { edge, along: curve.length() });
        }
        if (to..=from).contains(&x)
            && let Some(along) = curve.crossing(plumb)
        {
            return Ok(Place { edge, along });
        }
    }
    Err(AlterError::no_seam(Seam::Waist))
}

/// The cuts and the piece as it is taped; the shoulder dart's opening in degrees tells how far it can lap.
fn cut(back: &Piece, by: f64) -> Result<(Slash, Piece, Point), AlterError> {
    let shoulder = match Cut::along(back, DartPlace::Shoulder) {
        Some(cut) => cut,
        None => Cut::at(on_seam(back, Seam::Shoulder, 0.5)?),
    };
    let mouth = back.mouth(DartPlace::Shoulder);
    let top = mouth.map_or_else(|| shoulder.point(back), |(first, second)| first.midpoint(second));
    let hinge = waist_hinge(back, top.x)?;
    let about = back.edges[hinge.edge].curve.point_at(hinge.along);
    let blade = across_level(back);
    let turn = (by / (about.y - blade)).asin();
    let old_pivot = back
        .dart(DartPlace::Shoulder)
        .map_or_else(|| Point::new(top.x, top.y + DART_LONG), |dart| dart.pivot);
    // The dart's pivot lies in the middle of what opened beside it.
    let pivot = old_pivot.midpoint(Affine::rotate_about(turn, about) * old_pivot);
    let inner = vec![old_pivot];
    let still = Part { from: hinge, to: shoulder.before, inner: inner.clone(), motion: Motion::Still };
    let moving = Part { from: shoulder.after, to: hinge, inner, motion: Motion::Turn { about, by: turn } };
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
            -by,
            most,
            "that this shoulder dart can give up",
            "take the rest in at the centre back or the side seam",
        ));
    }
    let (slash, taped, pivot) = cut(back, by)?;
    let mut trued = taped.clone();
    redraw_dart(&mut trued, DartPlace::Shoulder, pivot);
    let length = back.sewn_length(Seam::Shoulder);
    // Drawn straight with the dart folded, and made as long as it was.
    let tip = trued.tip();
    redraw_shoulder(&mut trued, tip);
    let over = trued.sewn_length(Seam::Shoulder) - length;
    take_from_dart(&mut trued, over);
    true_neck_side(&mut trued, NECK_REACH);
    back_off_points(&mut trued);
    Ok((slash, taped, trued))
}

/// The shoulder dart widened by what the shoulder is still too long, the outer half of the shoulder kept.
fn take_from_dart(back: &mut Piece, over: f64) {
    let Some((first, second)) = back.mouth(DartPlace::Shoulder) else { return };
    let Some(pivot) = back.dart(DartPlace::Shoulder).map(|dart| dart.pivot) else { return };
    let (Some(inner), Some(outer)) = (back.first_edge(Seam::Shoulder), back.last_edge(Seam::Shoulder)) else {
        return;
    };
    let (a, b) = (back.edges[inner].curve.clone(), back.edges[outer].curve.clone());
    let first = first - a.end_direction() * (over / 2.0);
    let second = second + b.start_direction() * (over / 2.0);
    back.edges[inner].curve = Curve::line(a.start(), first);
    back.edges[outer].curve = Curve::line(second, b.end());
    for edge in back.edges.iter_mut().filter(|edge| edge.dart == Some(DartPlace::Shoulder)) {
        let is_first = edge.curve.end() == pivot;
        *edge = if is_first {
            Edge::leg(DartPlace::Shoulder, first, pivot)
        } else {
            Edge::leg(DartPlace::Shoulder, pivot, second)
        };
    }
    redraw_dart(back, DartPlace::Shoulder, pivot);
}
