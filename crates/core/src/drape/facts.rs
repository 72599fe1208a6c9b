//! What is stated before anything is clicked: how it was draped, and how exactly the hand marks.

use std::collections::BTreeMap;
use std::ops::RangeInclusive;

use serde::{Deserialize, Deserializer, Serialize};

use super::marks::{Cross, Named, Run};
use super::report::Refusal;

/// What the marks were made on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Material {
    /// Cloth from a form or a body, laid flat.
    Toile,
    /// A paper pattern.
    Paper,
    /// The back of a toile that was slashed on her: it makes no block, it corrects one.
    Slashed,
}

/// How exactly a hand marks.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum HandKind {
    /// Fine crosses, taken off at leisure.
    Careful,
    /// As most hands.
    #[default]
    Ordinary,
    /// In a hurry, or with a thick pencil.
    Rough,
}

impl HandKind {
    /// The spread of a cross in each direction, in millimetres (drape.md).
    pub const fn spread(self) -> f64 {
        match self {
            Self::Careful => 0.8,
            Self::Ordinary => 1.5,
            Self::Rough => 2.5,
        }
    }
}

/// Where the waist was marked along the tape.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum WaistMarked {
    /// At the tape's lower edge: length for moving is in it.
    #[default]
    LowerEdge,
    /// At its middle.
    Middle,
}

/// The usual width of a tape round a form's waist, in millimetres (drape.md: its middle lies 6 above its lower edge).
const TAPE_WIDTH: f64 = 12.0;
/// How wide a tape may be, in millimetres (common practice, no source).
pub const TAPE_WIDTHS: RangeInclusive<f64> = 2.0..=40.0;

/// How far the stitching of a drawn dart ends short of its pivot, in millimetres (common practice, no source).
pub(super) const BACKED_OFF_FRONT: f64 = 25.0;
/// The same behind.
pub(super) const BACKED_OFF_BACK: f64 = 12.0;

/// What is stated before clicking; it is recorded with the block.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Given {
    /// Draped skin tight: ease is added under the arm. Otherwise it was draped with its ease.
    pub skin_tight: bool,
    /// How much longer the back's shoulder is meant to be, in millimetres.
    pub shoulder_ease: f64,
    /// Of a paper pattern whose cutting line was traced: its allowance by seam, in millimetres.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub allowance: Option<Allowance>,
    /// What was marked; as the marks tell where nothing is said: only paper has dots on the lower armhole.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub material: Option<Material>,
    /// The hand that marked; of paper it is taken as tracing.
    pub hand: HandKind,
    /// Where the waist was marked.
    pub waist_marked: WaistMarked,
    /// Width of the tape the waist was marked at, in millimetres.
    pub tape_width: f64,
    /// The bust point was ruled with 3 mm of ease in the span.
    pub span_ease: bool,
    /// A tuck for ease was pinned in the front armhole, and is in the marks.
    pub armhole_tuck: bool,
    /// How far the drawn point of a front's dart is short of its pivot, in millimetres: of paper.
    pub backed_off_front: f64,
    /// The same behind.
    pub backed_off_back: f64,
}

impl Default for Given {
    fn default() -> Self {
        Self {
            skin_tight: false,
            shoulder_ease: 0.0,
            allowance: None,
            material: None,
            hand: HandKind::default(),
            waist_marked: WaistMarked::default(),
            tape_width: TAPE_WIDTH,
            span_ease: true,
            armhole_tuck: false,
            backed_off_front: BACKED_OFF_FRONT,
            backed_off_back: BACKED_OFF_BACK,
        }
    }
}

/// How much longer a back shoulder may be meant to be (drape.md).
const SHOULDER_EASE: RangeInclusive<f64> = 0.0..=12.0;
/// How far short of its pivot a dart is believed to be drawn, in millimetres (common practice, no source).
const BACKED_OFF: RangeInclusive<f64> = 0.0..=60.0;

impl Given {
    /// The first figure that cannot be meant: its field, and why.
    pub fn out_of_bounds(&self) -> Option<(&'static str, String)> {
        let figures = [
            ("shoulder_ease", "the ease of the back shoulder", self.shoulder_ease, SHOULDER_EASE),
            ("tape_width", "the width of the waist's tape", self.tape_width, TAPE_WIDTHS),
            (
                "backed_off_front",
                "how far a front's dart is drawn short of its pivot",
                self.backed_off_front,
                BACKED_OFF,
            ),
            (
                "backed_off_back",
                "how far a back's dart is drawn short of its pivot",
                self.backed_off_back,
                BACKED_OFF,
            ),
        ];
        let (field, what, mm, usual) = figures.into_iter().find(|(.., mm, usual)| !usual.contains(mm))?;
        let says = format!("{what} is {mm} mm: it is between {} and {} mm", usual.start(), usual.end());
        Some((field, says))
    }

    /// Refuses what cannot be meant, naming the field.
    pub(super) fn check(&self) -> Result<(), Refusal> {
        self.out_of_bounds().map_or(Ok(()), |(field, says)| {
            Err(Refusal { refuses: format!("{field}: {says}."), marks: Vec::new(), piece: None })
        })
    }
}

/// Allowances of a cutting line, in millimetres: one for every seam, or by seam.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = TracedAllowance))]
pub struct Allowance {
    /// Round the neck.
    pub neckline: f64,
    /// Along the shoulder.
    pub shoulder: f64,
    /// Round the armhole.
    pub armhole: f64,
    /// Down the side.
    pub side: f64,
    /// Along the waist.
    pub waist: f64,
    /// At the centre; none where it lies on the fold.
    pub centre: f64,
}

/// The widest allowance that is believed, in millimetres (common practice, no source).
const WIDEST: f64 = 60.0;

impl<'de> Deserialize<'de> for Allowance {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        use serde::de::Error;
        #[derive(Deserialize)]
        #[serde(untagged)]
        enum Told {
            Everywhere(f64),
            BySeam(BTreeMap<String, f64>),
        }
        let by_seam = match Told::deserialize(deserializer)? {
            Told::Everywhere(mm) => {
                ["neckline", "shoulder", "armhole", "side", "waist"].map(|seam| (seam.to_owned(), mm)).into()
            }
            Told::BySeam(by_seam) => by_seam,
        };
        let mut allowance = Self::default();
        for (seam, mm) in by_seam {
            let own = match seam.as_str() {
                "neckline" => &mut allowance.neckline,
                "shoulder" => &mut allowance.shoulder,
                "armhole" => &mut allowance.armhole,
                "side" => &mut allowance.side,
                "waist" => &mut allowance.waist,
                "centre" | "centre_front" | "centre_back" => &mut allowance.centre,
                other => {
                    return Err(D::Error::custom(format!("allowance: there is no seam called “{other}”")));
                }
            };
            if !(0.0..=WIDEST).contains(&mm) {
                return Err(D::Error::custom(format!("allowance of the {seam}: between 0 and {WIDEST} mm")));
            }
            *own = mm;
        }
        Ok(allowance)
    }
}

/// How exactly marks are known.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Hand {
    material: Material,
    /// Of a cross, in millimetres.
    sigma: f64,
    /// Of a dot on a line that was ruled before draping.
    ruled: f64,
}

/// A dot on a ruled line (drape.md).
const RULED: f64 = 0.6;
/// A traced line (drape.md, section 10).
const TRACED: f64 = 0.7;
/// A place on a path that was drawn by a program: what its fitting may smooth away.
const DRAWN: f64 = 0.2;
/// A residual of at least so much is doubtful, and of so many spreads (drape.md).
const DOUBTFUL: (f64, f64) = (4.5, 3.9);

impl Hand {
    /// The hand that is stated, on cloth or on paper.
    pub(super) fn stated(given: &Given, material: Material) -> Self {
        match material {
            Material::Toile | Material::Slashed => {
                Self { material, sigma: given.hand.spread(), ruled: RULED }
            }
            Material::Paper => Self { material, sigma: TRACED, ruled: TRACED },
        }
    }

    /// Points of a path that a program drew.
    pub(super) const fn drawn() -> Self {
        Self { material: Material::Paper, sigma: DRAWN, ruled: DRAWN }
    }

    /// The same seen through a photograph, where a click is known within so many millimetres.
    #[must_use]
    pub(super) fn seen_within(self, mm: f64) -> Self {
        Self { sigma: self.sigma.hypot(mm), ruled: self.ruled.hypot(mm), ..self }
    }

    /// How exactly one of its marks is known, in millimetres.
    pub(super) fn of(&self, named: Named) -> f64 {
        match named {
            Named::Run(Run::CentreDots | Run::LevelDots) | Named::Cross(Cross::BustPoint) => self.ruled,
            _ => self.sigma,
        }
    }

    /// The spread of a cross, in millimetres.
    pub(super) const fn sigma(&self) -> f64 {
        self.sigma
    }

    /// Further from its line than this, a mark is doubted, in millimetres.
    pub(super) fn doubtful(&self) -> f64 {
        DOUBTFUL.0.max(DOUBTFUL.1 * self.sigma)
    }

    /// Whether a paper pattern was traced.
    pub(super) fn is_paper(&self) -> bool {
        self.material == Material::Paper
    }
}
