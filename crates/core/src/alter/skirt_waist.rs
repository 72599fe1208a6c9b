//! The waist of a skirt raised or lowered, most at one end and fading to nothing at the other (handbook: `wishes.md`,
//! section 7). Hip and hem stay, the darts keep their lower ends and their intake, and the sewn waist its length.

use kurbo::{Point, Vec2};

use super::keeps::{GIRTHS, Keeps, SKIRT_CENTRES, SKIRT_HIP, SKIRT_SIDES};
use super::work::{Altered, PieceWork, altered};
use super::{About, AlterError, Alteration, Args, Handle, StageKind};
use crate::Style;
use crate::geometry::fading;
use crate::pattern::{Garment, Pattern, PatternMeasure, Piece, Redrawn, WaistSeam};

/// A dart shorter than this would stand out like a cone, in millimetres (common practice, no source).
const LEAST_DART_LONG: f64 = 40.0;

/// Where a skirt's waist is raised most.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum RaisedAt {
    /// At the centre front, nothing at the side.
    Front,
    /// At the centre back, nothing at the side.
    Back,
    /// At the side in front and behind, nothing at the centre lines.
    Side,
    /// All round alike.
    Round,
}

impl RaisedAt {
    /// How much of it is raised at a share of the way from the centre to the side, and how that changes along it.
    fn share(self, from_centre: f64) -> (f64, f64) {
        let (weight, slope) = fading(from_centre);
        match self {
            Self::Front | Self::Back => (weight, slope),
            Self::Side => (1.0 - weight, -slope),
            Self::Round => (1.0, 0.0),
        }
    }

    /// The halves it is done on.
    fn halves(self, pattern: &Pattern) -> Option<Vec<&Piece>> {
        let (front, back) = pattern.skirt_halves()?;
        let (front, back) = (front.at_centre(), back.at_centre());
        Some(match self {
            Self::Front => vec![front],
            Self::Back => vec![back],
            Self::Side | Self::Round => vec![front, back],
        })
    }

    /// What becomes longer by what is raised.
    const fn grows(self) -> &'static [PatternMeasure] {
        match self {
            Self::Front => &[PatternMeasure::SkirtCentreFront],
            Self::Back => &[PatternMeasure::SkirtCentreBack],
            Self::Side => {
                &[PatternMeasure::SkirtSideFront, PatternMeasure::SkirtSideBack, PatternMeasure::WaistToHip]
            }
            Self::Round => &[
                PatternMeasure::SkirtCentreFront,
                PatternMeasure::SkirtCentreBack,
                PatternMeasure::SkirtSideFront,
                PatternMeasure::SkirtSideBack,
                PatternMeasure::WaistToHip,
            ],
        }
    }

    /// Where the marks are set.
    const fn places(self) -> &'static str {
        match self {
            Self::Front => "at the centre front, and nothing at the side",
            Self::Back => "at the centre back, and nothing at the side",
            Self::Side => "at the side of front and back, along the seam, and nothing at the centre",
            Self::Round => "all round, front and back alike",
        }
    }
}

/// A skirt's waist raised: high hip, belly, seat and rise are each one of these.
pub(super) struct RaisedWaist {
    pub(super) about: &'static About,
    pub(super) at: RaisedAt,
}

impl Alteration for RaisedWaist {
    fn about(&self) -> &'static About {
        self.about
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        self.at.halves(pattern).is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let lengths = SKIRT_CENTRES.iter().chain(SKIRT_SIDES).chain(&[PatternMeasure::WaistToHip]);
        let others: Vec<PatternMeasure> =
            lengths.copied().filter(|figure| !self.at.grows().contains(figure)).collect();
        Keeps::exactly(&[GIRTHS, SKIRT_HIP, &others])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        self.at.grows().iter().map(|figure| (*figure, args.amount())).collect()
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let half = *self.at.halves(pattern)?.first()?;
        let seam = WaistSeam::of(half)?;
        let at = if self.at == RaisedAt::Side { seam.side } else { seam.centre };
        Some(Handle::new(half.kind, at, Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let halves = self.at.halves(pattern).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let mm = args.amount();
        let raise = |half: &Piece| Ok(PieceWork::drawn(half, raised(half, mm, self.at)?));
        let works = halves.into_iter().map(raise).collect::<Result<Vec<_>, AlterError>>()?;
        let way = if mm > 0.0 { "higher" } else { "lower" };
        let words = [
            (
                StageKind::Mark,
                format!("Mark the waist {} {way} {}.", style.with_unit(mm.abs()), self.at.places()),
            ),
            (
                StageKind::Move,
                "Draw the waist through the marks, square to the centre and to the side; open the darts in it again about their \
                 lower ends, as wide as before."
                    .to_owned(),
            ),
            (StageKind::True, FOLD_AND_WALK.to_owned()),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

/// How a skirt's waist is trued, whatever changed it.
pub(super) const FOLD_AND_WALK: &str =
    "Fold the darts and draw the waist smooth over them; walk front and back side seam along each other.";

/// One half of a skirt with its waist raised by so much, in millimetres; negative lowers it. The side is longer by what it is
/// raised there.
fn raised(piece: &Piece, mm: f64, at: RaisedAt) -> Result<Piece, AlterError> {
    let too_steep =
        || AlterError::not_here("the waist cannot be drawn so steep on this skirt: a smaller amount");
    let mut seam = WaistSeam::of(piece).ok_or_else(too_steep)?;
    // Every point goes straight up, by its share of the way from the centre to the side.
    let wide = seam.side.x;
    let raised = |point: Point| point - Vec2::new(0.0, mm * at.share(point.x / wide).0);
    seam.centre = raised(seam.centre);
    for dart in &mut seam.darts {
        let (_, slope) = at.share(dart.at.x / wide);
        let leans = dart.along - Vec2::new(0.0, dart.along.x * mm * slope / wide);
        dart.along = leans / leans.hypot();
        dart.at = raised(dart.at);
    }
    let asked = Redrawn { longer: mm * at.share(1.0).0, ..Redrawn::default() };
    let after = piece.with_waist(&seam, asked).ok_or_else(too_steep)?;
    let is_low =
        |piece: &Piece| WaistSeam::of(piece).is_some_and(|seam| seam.has_darts_shorter_than(LEAST_DART_LONG));
    if is_low(&after) && !is_low(piece) {
        return Err(AlterError::not_here(
            "the waist would come down to the ends of the darts: less, or draw the darts lower first",
        ));
    }
    Ok(after)
}
