//! A gape: the pinned tuck from a seam to the bust point, turned into the bust dart. What a gaping armhole and a
//! gaping neckline have in common (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::darts_in_the_way::end_short_of_curve;
use super::pivot::{mark_bust_line_at, on_seam, ray_on_seam};
use super::ways::{Ways, ways};
use super::work::{PieceWork, altered};
use super::{AlterError, Altered, Args, Handle, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, turn_degrees};
use crate::pattern::{
    Cut, DartPlace, Join, Pattern, Piece, Place, Seam, Slash, back_off_points, true_kinks, turned,
};

/// Either side of the closed tuck the seam is re-fitted over this length where the tuck lies square to it, in millimetres.
const REFIT: f64 = 30.0;
/// It is never re-fitted further than this share of the seam.
const FURTHEST_REFIT: f64 = 0.35;
/// A tuck that runs nearer to the seam than this does not point at the bust, in degrees.
const LEAST_ANGLE: f64 = 35.0;

ways! {
    /// The dart that takes a tuck up.
    Into {
        /// At the side.
        Side = "side", "the side dart";
        /// At the waist.
        Waist = "waist", "the waist dart";
    }
}

impl Into {
    const fn place(self) -> DartPlace {
        match self {
            Self::Side => DartPlace::Side,
            Self::Waist => DartPlace::Waist,
        }
    }
}

/// The dart that takes the tuck up.
pub(super) const INTO: Param = Param::way("into", "Into", Into::WAYS, "The dart that takes it up.");

/// What a gape is told.
pub(super) struct Params {
    /// The tuck's whole width, in millimetres.
    pub(super) by: f64,
    /// Where it is, as a share of the seam.
    pub(super) place: f64,
    into: Into,
}

impl Params {
    pub(super) fn of(args: &Args<'_>) -> Self {
        Self { by: args.amount(), place: args.of("place"), into: args.choice("into") }
    }
}

/// What a front must be like that takes up a gape.
pub(super) const WANTS: &str = "a gape is turned into a bust dart of a whole front: this pattern has no front that is shaped to a bust point";

/// Whether there is a whole front with a bust point that no armhole dart shapes.
pub(super) fn takes_a_gape(pattern: &Pattern) -> bool {
    pattern.front().is_some_and(|front| {
        front.bust_pivot().is_some()
            && front.dart(DartPlace::Armhole).is_none()
            && front.dart(DartPlace::Neckline).is_none()
    })
}

/// The handle of a gape: at its place on the seam, drawn towards the closed tuck.
pub(super) fn gripped(pattern: &Pattern, seam: Seam, share: f64) -> Option<Handle> {
    gripped_on(pattern.front()?, seam, share)
}

/// The same on a piece.
pub(super) fn gripped_on(piece: &Piece, seam: Seam, share: f64) -> Option<Handle> {
    let place = on_seam(piece, seam, share).ok()?;
    let curve = &piece.edges[place.edge].curve;
    let (at, along) = (curve.point_at(place.along), curve.direction_at(place.along));
    Some(Handle::new(piece.kind, at, -along))
}

/// The tuck of a seam taken up, as these amounts tell.
///
/// # Errors
///
/// [`AlterError::NotHere`] where the tuck does not point at the bust or leaves its seam.
pub(super) fn taken_up(
    pattern: &Pattern,
    seam: Seam,
    Params { by, place, into }: Params,
    style: Style,
) -> Result<Altered, AlterError> {
    let front = pattern.front().ok_or_else(|| AlterError::not_here(WANTS))?;
    let gape = Gape { seam, place, by, into: into.place() };
    let (slash, taped, trued) = gape.taken_up(front)?;
    Ok(altered(pattern, &[PieceWork::cut(front, slash, taped, trued)], &gape.words(style)))
}

/// A tuck is folded out of a seam at least so far from its ends and corners, in millimetres.
const FROM_CORNERS: f64 = 38.0;
/// And where the way to the bust point leaves the seam at this angle at least, in degrees.
const LEAST_SQUARE: f64 = 50.0;
/// Nearer to the bust point than this nothing is folded out, in millimetres.
const LEAST_REACH: f64 = 60.0;

/// The front with so much folded out of a seam where it lies nearest to the bust point; the waist dart takes it up, else
/// the side dart.
///
/// # Errors
///
/// [`AlterError::NotHere`] where no place of the seam is for it.
pub(super) fn folded_out(front: &Piece, seam: Seam, by: f64, style: Style) -> Result<Piece, AlterError> {
    let pivot = front.bust_pivot().ok_or_else(|| AlterError::not_here(WANTS))?;
    let into = if front.dart(DartPlace::Waist).is_some() { DartPlace::Waist } else { DartPlace::Side };
    let by_hand = || {
        AlterError::not_here(format!(
            "no place of the {} is {} from its corners and points at the bust: take {} out by hand on the toile",
            seam.name(),
            style.with_unit(FROM_CORNERS),
            style.with_unit(by)
        ))
    };
    let mut before = 0.0;
    let mut places: Vec<(f64, f64)> = Vec::new();
    for edge in front.edges_of(seam) {
        let length = edge.curve.length();
        let last = (length - FROM_CORNERS).floor();
        for along in (FROM_CORNERS as u32..=last.max(0.0) as u32).map(f64::from) {
            let to_pivot = pivot - edge.curve.point_at(along);
            let angle = turn_degrees(edge.curve.direction_at(along), to_pivot).abs();
            if angle.min(180.0 - angle) >= LEAST_SQUARE && to_pivot.hypot() >= LEAST_REACH {
                places.push((to_pivot.hypot(), before + along));
            }
        }
        before += length;
    }
    let nearest = places.into_iter().min_by(|a, b| a.0.total_cmp(&b.0)).ok_or_else(by_hand)?;
    let gape = Gape { seam, place: nearest.1 / before, by, into };
    let mut front = front.clone();
    let place = on_seam(&front, seam, gape.place)?;
    let at = front.edges[place.edge].curve.point_at(place.along);
    begin_grain_past(&mut front, at, pivot);
    Ok(gape.taken_up(&front)?.2)
}

/// A grain line keeps so far from a fold, in millimetres.
const GRAIN_FROM_FOLD: f64 = 10.0;

/// A grain line that the fold from `from` to `pivot` crosses begins past it: it lies on the cloth that stays.
fn begin_grain_past(piece: &mut Piece, from: Point, pivot: Point) {
    let (start, end) = piece.grain;
    let (along, fold) = (end - start, pivot - from);
    let across = along.cross(fold);
    if across.abs() < 1e-9 {
        return;
    }
    let (on_grain, on_fold) = ((from - start).cross(fold) / across, (from - start).cross(along) / across);
    // With the width of the tuck, which lies on both sides of the fold.
    let past = on_grain + 2.0 * GRAIN_FROM_FOLD / along.hypot();
    if (0.0..=1.0).contains(&on_fold) && (0.0..0.8).contains(&past) {
        piece.grain.0 = start + along * past;
    }
}

/// A pinned tuck between a seam and the point it runs to.
pub(super) struct Tuck {
    /// Its sides on the seam, in the order of the outline.
    pub(super) upper: Place,
    pub(super) lower: Place,
    /// What takes it up when the cloth turns about the point it runs to, in radians.
    pub(super) turn: f64,
    /// Over this length the seam is re-fitted either side of it, in millimetres.
    pub(super) refit: f64,
}

impl Tuck {
    /// The turn that takes up a tuck of this width at this distance, in radians.
    pub(super) fn turn(by: f64, reach: f64) -> f64 {
        2.0 * (by / (2.0 * reach)).asin()
    }

    /// A tuck of this width, square to its fold, at a share of a seam, running to `pivot`.
    ///
    /// # Errors
    ///
    /// [`AlterError::NotHere`] where it does not point at the bust or leaves its seam.
    pub(super) fn mark(
        piece: &Piece,
        seam: Seam,
        share: f64,
        by: f64,
        pivot: Point,
    ) -> Result<Self, AlterError> {
        let place = on_seam(piece, seam, share)?;
        let curve = &piece.edges[place.edge].curve;
        let at = curve.point_at(place.along);
        let angle = turn_degrees(curve.direction_at(place.along), pivot - at).abs();
        let angle = angle.min(180.0 - angle);
        if angle < LEAST_ANGLE {
            return Err(AlterError::not_here(format!(
                "the tuck runs at {angle:.0}\u{b0} to the {}, which does not point at the bust (35\u{b0} at least): move its place",
                seam.name()
            )));
        }
        let turn = Self::turn(by, pivot.distance(at));
        let ray = |by: f64| -> Vec2 { (kurbo::Affine::rotate(by) * (at - pivot).to_point()).to_vec2() };
        let on = |by: f64| {
            ray_on_seam(piece, seam, pivot, ray(by)).ok_or_else(|| {
                AlterError::not_here(format!(
                    "the tuck reaches past the end of the {}: a smaller one, or another place",
                    seam.name()
                ))
            })
        };
        let (upper, lower) = (on(-turn / 2.0)?, on(turn / 2.0)?);
        // A slanting tuck leaves its two ends far apart along the seam: bent back over a short way they would make a hook.
        let far = (FURTHEST_REFIT * curve.length()).max(REFIT);
        let refit = (REFIT / angle.to_radians().sin().powi(2)).min(far);
        Ok(Self { upper, lower, turn, refit })
    }

    /// The piece ready for it: its outer waist dart ended short of the tuck's sides, its bust line marked where the cloth turns.
    pub(super) fn clear(&self, piece: &Piece, pivot: Point) -> Piece {
        let mut clear = piece.clone();
        for side in [self.upper, self.lower] {
            let at = piece.edges[side.edge].curve.point_at(side.along);
            end_short_of_curve(&mut clear, &Curve::line(pivot, at));
        }
        mark_bust_line_at(&mut clear, pivot);
        clear
    }
}

/// A pinned tuck from a seam to the pivot, turned into a dart.
struct Gape {
    seam: Seam,
    /// As a share of the seam, in the direction of the outline.
    place: f64,
    /// The tuck's whole width, square to its fold.
    by: f64,
    into: DartPlace,
}

impl Gape {
    /// The cuts, the piece as it is taped, and trued.
    fn taken_up(&self, front: &Piece) -> Result<(Slash, Piece, Piece), AlterError> {
        let pivot = front.bust_pivot().ok_or_else(|| AlterError::not_here(WANTS))?;
        let marked = Tuck::mark(front, self.seam, self.place, self.by, pivot)?;
        let front = &marked.clear(front, pivot);
        let Tuck { upper, lower, turn, refit } = marked;
        let tuck = Cut { before: upper, after: lower, dart: None };
        let dart = self.dart_cut(front, pivot)?;
        let slash = turned(pivot, -turn, (tuck, Join::Bring(refit)), (dart, Join::Dart(self.into, pivot)));
        let taped = slash.apply(front)?;
        let mut trued = taped.clone();
        true_kinks(&mut trued, self.seam, refit);
        back_off_points(&mut trued);
        Ok((slash, taped, trued))
    }

    fn dart_cut(&self, front: &Piece, pivot: Point) -> Result<Cut, AlterError> {
        if let Some(cut) = Cut::along(front, self.into) {
            return Ok(cut);
        }
        let towards = if self.into == DartPlace::Side { Vec2::new(1.0, 0.0) } else { Vec2::new(0.0, 1.0) };
        ray_on_seam(front, self.into.seam(), pivot, towards)
            .map(Cut::at)
            .ok_or_else(|| AlterError::no_seam(self.into.seam()))
    }

    /// The stages.
    fn words(&self, style: Style) -> [(StageKind, String); 5] {
        let (seam, dart, amount) = (self.seam.name(), self.into.name(), style.with_unit(self.by));
        [
            (
                StageKind::Mark,
                format!(
                    "Mark the tuck, {amount} wide at the {seam} square to its fold, and rule both its sides to the pivot."
                ),
            ),
            (StageKind::Cut, format!("Cut along the {dart} to the pivot, not through it.")),
            (StageKind::Move, format!("Fold the tuck shut: the {dart} opens by the same angle.")),
            (StageKind::Fill, "Tape paper behind the opening.".to_owned()),
            (
                StageKind::True,
                format!(
                    "Draw the {seam} smooth over the closed tuck; mark the dart's point anew and fold it to draw its seam."
                ),
            ),
        ]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Worked figure (handbook: `alterations.md`, section 4).
    #[test]
    fn the_turn_is_the_worked_figures() {
        let reach = Point::new(95.0, 265.0).distance((178.0, 140.0).into());
        assert!((Tuck::turn(12.7, reach).to_degrees() - 4.851).abs() < 5e-4);
    }
}
