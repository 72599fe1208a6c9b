//! The waist of a skirt raised or lowered, most at one end and fading to nothing at the other (handbook: `wishes.md`,
//! section 7). Hip and hem stay, the darts keep their lower ends and their intake, and the sewn waist its length.

use kurbo::{Point, Vec2};

use super::keeps::{GIRTHS, Keeps, SKIRT_HIP, SKIRT_SIDES};
use super::work::{Altered, PieceWork, altered};
use super::{About, AlterError, Alteration, Args, Handle, StageKind};
use crate::Style;
use crate::geometry::fading;
use crate::pattern::{Garment, Pattern, PatternMeasure, Piece, Redrawn, WaistSeam};

/// Where a skirt's waist is raised.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum RaisedAt {
    /// Most at the centre line, nothing at the side.
    Centre,
    /// Most at the side, nothing at the centre line.
    Side,
}

impl RaisedAt {
    /// How much of it is raised at a share of the way from the centre to the side, and how that changes along it.
    fn share(self, from_centre: f64) -> (f64, f64) {
        let (weight, slope) = fading(from_centre);
        match self {
            Self::Centre => (weight, slope),
            Self::Side => (1.0 - weight, -slope),
        }
    }
}

/// One half of a skirt with its waist raised by so much, in millimetres; negative lowers it. The side is longer by what it is
/// raised there.
pub(super) fn raised(piece: &Piece, mm: f64, at: RaisedAt) -> Result<Piece, AlterError> {
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

/// A dart shorter than this would stand out like a cone, in millimetres (common practice, no source).
const LEAST_DART_LONG: f64 = 40.0;

/// Does it on these halves, told in stages.
pub(super) fn raise(
    pattern: &Pattern,
    halves: &[&Piece],
    mm: f64,
    at: RaisedAt,
    words: &[(StageKind, String)],
) -> Result<Altered, AlterError> {
    let works: Result<Vec<PieceWork>, AlterError> =
        halves.iter().map(|piece| Ok(PieceWork::drawn(piece, raised(piece, mm, at)?))).collect();
    Ok(altered(pattern, &works?, words))
}

/// How the waist is drawn and trued after its marks, in every alteration of this kind.
pub(super) fn drawn_words() -> [(StageKind, String); 2] {
    [
        (
            StageKind::Move,
            "Draw the waist through the marks, square to the centre and to the side; open the darts in it again about their lower \
             ends, as wide as before."
                .to_owned(),
        ),
        (
            StageKind::True,
            "Fold the darts and draw the waist smooth over them; walk front and back side seam along each other.".to_owned(),
        ),
    ]
}

/// Which centre line of a skirt.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Centre {
    /// In front.
    Front,
    /// Behind.
    Back,
}

impl Centre {
    const fn figure(self) -> PatternMeasure {
        match self {
            Self::Front => PatternMeasure::SkirtCentreFront,
            Self::Back => PatternMeasure::SkirtCentreBack,
        }
    }

    const fn other(self) -> Self {
        match self {
            Self::Front => Self::Back,
            Self::Back => Self::Front,
        }
    }

    const fn word(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
        }
    }
}

/// An alteration that raises the waist at one centre line, nothing at the side: belly and seat.
pub(super) struct RaisedCentre {
    pub(super) about: &'static About,
    pub(super) at: Centre,
}

impl RaisedCentre {
    fn half<'a>(&self, pattern: &'a Pattern) -> Option<&'a Piece> {
        let (front, back) = pattern.skirt_halves()?;
        Some(match self.at {
            Centre::Front => front.at_centre(),
            Centre::Back => back.at_centre(),
        })
    }
}

impl Alteration for RaisedCentre {
    fn about(&self) -> &'static About {
        self.about
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        self.half(pattern).is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let others = [PatternMeasure::WaistToHip, self.at.other().figure()];
        Keeps::exactly(&[GIRTHS, SKIRT_SIDES, SKIRT_HIP, &others])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(self.at.figure(), args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let half = self.half(pattern)?;
        Some(Handle::new(half.kind, half.centre_top(), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let half = self.half(pattern).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let mm = args.amount();
        let mark = format!(
            "Mark the waist {} {} at the centre {}, and nothing at the side.",
            style.with_unit(mm.abs()),
            if mm > 0.0 { "higher" } else { "lower" },
            self.at.word()
        );
        let [draw, true_up] = drawn_words();
        raise(pattern, &[half], mm, RaisedAt::Centre, &[(StageKind::Mark, mark), draw, true_up])
    }
}
