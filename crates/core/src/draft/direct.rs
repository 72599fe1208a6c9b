//! The direct method: what it wants, what it refuses, and the bodice it gives.

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::{back, front, split};
use crate::body::Body;
use crate::pattern::{Pattern, PieceKind};
use crate::{Length, Style};

/// Ease of the draft: total, on the body, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DirectEase {
    /// At the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
}

impl DirectEase {
    /// None: the body itself.
    pub const NONE: Self = Self { bust: 0.0, waist: 0.0, across_back: 0.0 };
}

/// The constants of the method. Every one is common practice, no source, and may be changed.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Direct {
    /// Ease on the body.
    pub ease: DirectEase,
    /// What the front takes over a quarter of a girth, in millimetres (3/8 in).
    pub front_share: f64,
    /// Neck width is a fifth of the neck less this, in millimetres.
    pub neck_width_less: f64,
    /// The front neck is this much deeper than wide, in millimetres.
    pub neck_depth_more: f64,
    /// The underarm lies at this share of the bust depth in front.
    pub underarm_share: f64,
    /// A waist dart's first leg lies this far inside its pivot, in millimetres.
    pub dart_inside: f64,
    /// The front waist dart keeps this mouth; the rest goes to a side dart. `None`: one dart.
    pub waist_dart_keeps: Option<f64>,
    /// Depth of the back shoulder dart's pivot, in millimetres.
    pub shoulder_dart_depth: f64,
    /// Mouth of the back shoulder dart, in millimetres.
    pub shoulder_dart_mouth: f64,
    /// The back takes up at most this much of the front's flare, in degrees.
    pub back_flare_limit: f64,
}

impl Default for Direct {
    fn default() -> Self {
        Self {
            ease: DirectEase { bust: 50.0, waist: 25.0, across_back: 15.0 },
            front_share: 9.5,
            neck_width_less: 3.0,
            neck_depth_more: 9.5,
            underarm_share: 0.75,
            dart_inside: 9.5,
            waist_dart_keeps: Some(38.0),
            shoulder_dart_depth: 85.0,
            shoulder_dart_mouth: 12.0,
            back_flare_limit: 8.0,
        }
    }
}

/// The readings the method wants, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DirectReadings {
    pub(super) neck: f64,
    pub(super) shoulder: f64,
    pub(super) slope: f64,
    pub(super) across_front: f64,
    pub(super) across_back: f64,
    pub(super) bust: f64,
    pub(super) upper_bust: f64,
    pub(super) waist: f64,
    pub(super) span: f64,
    pub(super) bust_depth: f64,
    pub(super) front_length: f64,
    pub(super) back_length: f64,
    pub(super) nape_to_waist: f64,
    /// Nape to the underarm level of the pattern: 25 below a tape at the armpits.
    pub(super) nape_to_underarm: f64,
    pub(super) side: f64,
    pub(super) shoulder_width: Option<f64>,
}

/// A named point of the construction.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct DraftPoint {
    /// The piece it is drawn on.
    pub piece: PieceKind,
    /// Its letter or name in the handbook.
    pub name: String,
    /// Where it lies before any dart is moved or any line trued.
    pub at: Point,
}

/// Something the cutter should know about a draft.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DraftNote {
    /// The sentence.
    pub says: String,
    /// The reading concerned, by its code, where there is one.
    pub measurement: Option<String>,
    /// Whether a figure was estimated: such a draft is for looking at, not for cutting.
    pub estimated: bool,
}

/// A drafted bodice: pieces, the points they were drawn through, and notes.
#[derive(Clone, Debug, PartialEq)]
pub struct Draft {
    /// Front and back.
    pub pattern: Pattern,
    /// The construction.
    pub points: Vec<DraftPoint>,
    /// What was estimated or is doubtful.
    pub notes: Vec<DraftNote>,
}

impl Draft {
    /// A construction point by piece and name.
    pub fn point(&self, piece: PieceKind, name: &str) -> Option<Point> {
        self.points.iter().find(|p| p.piece == piece && p.name == name).map(|p| p.at)
    }
}

/// Why a body cannot be drafted. Each names the readings and the way out.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum DraftError {
    /// Readings are missing.
    #[error("the draft still wants {}", .0.join(", "))]
    Missing(Vec<String>),
    /// The shoulder drops more than it is long.
    #[error(
        "a shoulder {shoulder} long cannot drop {slope}: measure shoulder slope again (it must stay below \
         {shoulder}), or shoulder length (it must exceed {slope})"
    )]
    SlopeTooSteep {
        /// Shoulder length, written.
        shoulder: String,
        /// Shoulder slope, written.
        slope: String,
    },
    /// The side seam ends above the bust line.
    #[error(
        "a side length of {side} ends above the bust line: measure side length again (it must exceed {least}), or \
         neck side to bust point"
    )]
    SideTooShort {
        /// Side length, written.
        side: String,
        /// The least it can be, written.
        least: String,
    },
    /// The two circles of a waist dart do not meet.
    #[error(
        "the {piece} waist misses the side seam by {by}: measure waist girth again ({waist}), or {length_name} ({length})"
    )]
    WaistUnreachable {
        /// `front` or `back`.
        piece: &'static str,
        /// The gap, written.
        by: String,
        /// Waist girth, written.
        waist: String,
        /// The other reading's name.
        length_name: &'static str,
        /// The other reading, written.
        length: String,
    },
    /// A width that leaves no room for what lies inside it.
    #[error("{wide} ({wide_is}) must exceed {narrow} ({narrow_is}): measure both again")]
    NoRoom {
        /// The reading that is too small.
        wide: &'static str,
        /// Its figure, written.
        wide_is: String,
        /// What it must hold.
        narrow: &'static str,
        /// Its figure, written.
        narrow_is: String,
    },
}

impl DraftError {
    /// The codes of the readings concerned, the likelier one first.
    pub fn measurements(&self) -> Vec<&str> {
        match self {
            Self::Missing(codes) => codes.iter().map(String::as_str).collect(),
            Self::SlopeTooSteep { .. } => vec!["shoulder_slope", "shoulder_length"],
            Self::SideTooShort { .. } => vec!["side_length", "snp_to_bust_point"],
            Self::WaistUnreachable { piece: "front", .. } => vec!["waist_girth", "snp_to_waist_front"],
            Self::WaistUnreachable { .. } => vec!["waist_girth", "nape_to_waist_back"],
            Self::NoRoom { .. } => vec!["waist_girth", "bust_span"],
        }
    }
}

impl DirectReadings {
    /// The codes the method cannot do without.
    pub const NEEDED: [&str; 13] = [
        "neck_base_girth",
        "shoulder_length",
        "across_front",
        "across_back",
        "bust_girth",
        "upper_bust_girth",
        "waist_girth",
        "bust_span",
        "snp_to_bust_point",
        "snp_to_waist_front",
        "snp_to_waist_back",
        "nape_to_waist_back",
        "side_length",
    ];

    /// Takes what the method wants from a body; slope and armhole depth may be estimated.
    ///
    /// # Errors
    ///
    /// [`DraftError::Missing`] with every code that is wanting.
    pub fn from_body(body: &Body, notes: &mut Vec<DraftNote>) -> Result<Self, DraftError> {
        let missing: Vec<String> = Self::NEEDED
            .iter()
            .filter(|code| body.get(code).is_none())
            .map(|code| (*code).to_owned())
            .collect();
        if !missing.is_empty() {
            return Err(DraftError::Missing(missing));
        }
        let of = |code: &str| body.get(code).unwrap_or_default();
        let mut estimated = |code: &str, says: &str, value: f64| {
            notes.push(DraftNote {
                says: says.to_owned(),
                measurement: Some(code.to_owned()),
                estimated: true,
            });
            value
        };
        let slope = body.get("shoulder_slope").unwrap_or_else(|| {
            let drop = of("shoulder_length") * 20f64.to_radians().sin();
            estimated(
                "shoulder_slope",
                "Shoulder slope is estimated at 20 degrees: measure it before cutting.",
                drop,
            )
        });
        let nape_to_underarm = body.get("armhole_depth").map_or_else(
            || {
                let depth = of("nape_to_waist_back") / 2.0 + 20.0;
                let says = "Armhole depth is estimated from nape to waist: measure it before cutting.";
                estimated("armhole_depth", says, depth)
            },
            |depth| depth + back::BELOW_ARMPIT,
        );
        Ok(Self {
            neck: of("neck_base_girth"),
            shoulder: of("shoulder_length"),
            slope,
            across_front: of("across_front"),
            across_back: of("across_back"),
            bust: of("bust_girth"),
            upper_bust: of("upper_bust_girth"),
            waist: of("waist_girth"),
            span: of("bust_span"),
            bust_depth: of("snp_to_bust_point"),
            front_length: of("snp_to_waist_front"),
            back_length: of("snp_to_waist_back"),
            nape_to_waist: of("nape_to_waist_back"),
            nape_to_underarm,
            side: of("side_length"),
            shoulder_width: body.get("shoulder_width"),
        })
    }
}

/// Drafts front and back bodice by the direct method. `style` is how refusals write their figures.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_direct(body: &Body, method: &Direct, style: Style) -> Result<Draft, DraftError> {
    let mut notes = Vec::new();
    let readings = DirectReadings::from_body(body, &mut notes)?;
    if readings.slope >= readings.shoulder {
        return Err(DraftError::SlopeTooSteep {
            shoulder: style.with_unit(readings.shoulder),
            slope: style.with_unit(readings.slope),
        });
    }
    let front = front::draft(&readings, method, style)?;
    let back = back::draft(&readings, method, &front, style)?;
    notes.extend(shoulder_width_note(&readings, front.tip, style));
    notes.extend(back.notes);
    notes.extend(front.notes);
    let front_piece = match method.waist_dart_keeps {
        Some(keeps) => split::waist_dart_to_side(front.piece, front.side_at_bust, keeps),
        None => front.piece,
    };
    let points = front.points.into_iter().chain(back.points).collect();
    Ok(Draft { pattern: Pattern::new(vec![front_piece, back.piece]), points, notes })
}

fn shoulder_width_note(readings: &DirectReadings, tip: Point, style: Style) -> Option<DraftNote> {
    let width = readings.shoulder_width?;
    let drafted = 2.0 * tip.x;
    let off = (drafted - width).abs() > 20.0;
    off.then(|| DraftNote {
        says: format!(
            "Shoulder width measured {}, the draft comes to {}: one of shoulder width, shoulder length and neck is doubtful.",
            style.with_unit(width),
            style.with_unit(drafted)
        ),
        measurement: Some("shoulder_width".to_owned()),
        estimated: false,
    })
}

/// A length as a refusal writes it.
pub(super) fn written(mm: f64, style: Style) -> String {
    debug_assert!(Length::from_mm(mm).mm().is_finite(), "a refusal never writes a figure that is no number");
    style.with_unit(mm)
}
