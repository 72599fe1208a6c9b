//! The direct method: what it wants, what it refuses, and the bodice or dress it gives.

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::clash::{Clash, refusing};
use super::quantity::{Quantity, length, number};
use super::sheet::{DraftStep, StepLine, Term, mm, quarter};
use super::{Contradiction, back, dress, front, split};
use crate::body::Body;
use crate::ease::EaseSet;
use crate::pattern::{Pattern, Piece, PieceKind, Seam};
use crate::{Length, Style};

/// Ease of the draft: total, on the body, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct DirectEase {
    /// At the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip.
    pub hip: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
}

impl Default for DirectEase {
    /// 2 in, 1 in, 2 in (common practice, no source).
    fn default() -> Self {
        Self { bust: 50.0, waist: 25.0, hip: 50.0, across_back: 15.0 }
    }
}

impl DirectEase {
    /// None: the body itself.
    pub const NONE: Self = Self { bust: 0.0, waist: 0.0, hip: 0.0, across_back: 0.0 };

    /// What the draft takes of a set for a body.
    pub fn of(set: &EaseSet, body: &Body) -> Self {
        let girth = |code: &str, wearing: f64, design: f64| {
            body.get(code).unwrap_or_default() * set.stretch + wearing + design
        };
        Self {
            bust: girth("bust_girth", set.bust, set.design.bust),
            waist: set.over_natural_waist(body),
            hip: girth("hip_girth", set.hip, set.design.hip),
            across_back: set.across_back + set.design.across_back,
        }
    }
}

/// The constants of the method. Every one is common practice, no source, and may be changed;
/// [`super::parameters`] names them and says why they stand where they stand.
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
    /// The whole front dart stays at the waist; otherwise most of it goes to the side.
    pub one_dart: bool,
    /// The front waist dart keeps this mouth when it is split, in millimetres.
    pub waist_dart_keeps: f64,
    /// The side dart takes the flare of front and back, so that both side seams lean alike; the waist dart keeps the rest.
    pub balanced: bool,
    /// A shoulder whose slope was not measured is placed by the shoulder width.
    pub slope_by_width: bool,
    /// What the cup adds is given to the front alone.
    pub cup_to_front: bool,
    /// Depth of the back shoulder dart's pivot, in millimetres.
    pub shoulder_dart_depth: f64,
    /// Mouth of the back shoulder dart, in millimetres.
    pub shoulder_dart_mouth: f64,
    /// The back's dart is a pinch at the armhole, as wide, instead of in the shoulder.
    pub back_pinch: bool,
    /// The back takes up at most this much of the front's flare, in degrees.
    pub back_flare_limit: f64,
    /// The underarm of the pattern lies this far below a tape at the armpits, in millimetres.
    pub below_armpit: f64,
    /// A waist dart narrower than this is not sewn, in millimetres.
    pub least_dart: f64,
    /// Neck width is the neck divided by this, less a little.
    pub neck_divisor: f64,
    /// With the cup given to the front, the back is drafted for this cup, in millimetres.
    pub middle_cup: f64,
    /// A back waist dart wider than this is noted, in millimetres.
    pub usual_back_dart: f64,
    /// A back waist dart wider than that is drafted as two.
    pub second_back_dart: bool,
    /// A shoulder that was not measured is drawn at this slope, in degrees.
    pub estimated_slope: f64,
    /// Side notches lie this far above the waist, in millimetres.
    pub notch_above_waist: f64,
    /// Armhole notches lie at this share of the armhole from the underarm.
    pub armhole_notch: f64,
}

impl Default for Direct {
    fn default() -> Self {
        Self {
            ease: DirectEase::default(),
            front_share: 9.5,
            neck_width_less: 3.0,
            neck_depth_more: 9.5,
            underarm_share: 0.75,
            dart_inside: 9.5,
            one_dart: false,
            waist_dart_keeps: 38.0,
            balanced: false,
            slope_by_width: false,
            cup_to_front: false,
            shoulder_dart_depth: 85.0,
            shoulder_dart_mouth: 12.0,
            back_pinch: false,
            back_flare_limit: 8.0,
            below_armpit: 25.0,
            least_dart: 6.0,
            neck_divisor: 5.0,
            middle_cup: 51.0,
            usual_back_dart: 38.0,
            second_back_dart: false,
            estimated_slope: 20.0,
            notch_above_waist: 70.0,
            armhole_notch: 1.0 / 3.0,
        }
    }
}

impl Direct {
    /// A quarter of a girth with its ease, the front a share more and the back a share less.
    pub(super) fn quarter(
        &self,
        name: &'static str,
        girth: Term,
        ease: &'static str,
        ease_mm: f64,
        is_front: bool,
    ) -> StepLine {
        quarter(name, girth, mm(ease, ease_mm), mm("front_share", self.front_share), is_front)
    }

    /// Front and back at the bust line: together half the bust with ease; where the cup goes is an option.
    pub(super) fn bust_shares(&self, r: &DirectReadings) -> (StepLine, StepLine) {
        let half = || length("half the bust with ease", (r.bust + self.ease.bust) / 2.0);
        let rest = |name, from: &StepLine| (half() - from.quantity()).named(name);
        let (front, back) = ("front at the bust line", "back at the bust line");
        if self.cup_to_front {
            let with_cup = mm("upper bust and a middle cup", r.upper_bust + self.middle_cup);
            let back = self.quarter(back, with_cup, "ease at the bust", self.ease.bust, false);
            (rest(front, &back), back)
        } else {
            let front =
                self.quarter(front, mm("bust_girth", r.bust), "ease at the bust", self.ease.bust, true);
            let back = rest(back, &front);
            (front, back)
        }
    }

    /// Half across the back, or in front with half of its ease, to the armhole.
    pub(super) fn across(&self, name: &'static str, reading: Term, ease_mm: f64) -> StepLine {
        ((Quantity::of(reading) + length("ease across", ease_mm)) / 2.0).named(name)
    }

    /// The flare of the back's side seam beside a front's, in radians.
    pub(super) fn back_flare(&self, front: f64) -> f64 {
        front.clamp(0.0, self.back_flare_limit.to_radians())
    }

    /// The neck's width on the pattern.
    pub(super) fn neck_width(&self, r: &DirectReadings) -> StepLine {
        let part = length("neck_base_girth", r.neck) / number("neck_divisor", self.neck_divisor);
        (part - length("neck_width_less", self.neck_width_less)).named("neck width")
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
    pub(super) hip: f64,
    pub(super) span: f64,
    pub(super) bust_depth: f64,
    pub(super) front_length: f64,
    pub(super) back_length: f64,
    pub(super) nape_to_waist: f64,
    /// Nape to a level tape at the armpits.
    pub(super) armhole_depth: f64,
    pub(super) side: f64,
    pub(super) waist_to_hip: f64,
    pub(super) shoulder_width: Option<f64>,
    pub(super) armhole_girth: Option<f64>,
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

impl DraftNote {
    pub(super) fn about(measurement: &str, says: String) -> Self {
        Self { says, measurement: Some(measurement.to_owned()), estimated: false }
    }
}

/// A drafted block: pieces, the steps they were drawn in, and notes.
#[derive(Clone, Debug, PartialEq)]
pub struct Draft {
    /// Front and back, and a sleeve where one was wanted.
    pub pattern: Pattern,
    /// The construction, in order.
    pub steps: Vec<DraftStep>,
    /// What was estimated or is doubtful.
    pub notes: Vec<DraftNote>,
}

impl Draft {
    /// A construction point by piece and name.
    pub fn point(&self, piece: PieceKind, name: &str) -> Option<Point> {
        let of_piece = self.steps.iter().filter(|step| step.piece == piece);
        of_piece.flat_map(|step| &step.points).find(|(n, _)| n == name).map(|(_, at)| *at)
    }
}

/// Why a body cannot be drafted. Each names the readings and the way out.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum DraftError {
    /// Readings are missing.
    #[error("the draft still wants {}", .0.join(", "))]
    Missing(Vec<String>),
    /// Two readings contradict each other.
    #[error("{}", .0.says)]
    Contradiction(Box<Contradiction>),
}

impl DraftError {
    /// The codes of the readings concerned, the likelier one first.
    pub fn measurements(&self) -> Vec<&str> {
        match self {
            Self::Missing(codes) => codes.iter().map(String::as_str).collect(),
            Self::Contradiction(found) => {
                found.readings.iter().map(|conflict| conflict.measurement.as_str()).collect()
            }
        }
    }
}

impl DirectReadings {
    /// The codes the bodice cannot do without.
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
    /// What the dress wants besides.
    pub const NEEDED_BELOW: [&str; 2] = ["hip_girth", "waist_to_hip"];

    /// Takes what the method wants from a body; slope and armhole depth may be estimated.
    ///
    /// # Errors
    ///
    /// [`DraftError::Missing`] with every code that is wanting.
    pub fn from_body(
        body: &Body,
        method: &Direct,
        to_hip: bool,
        style: Style,
        notes: &mut Vec<DraftNote>,
    ) -> Result<Self, DraftError> {
        let below: &[&str] = if to_hip { &Self::NEEDED_BELOW } else { &[] };
        super::missing(body, Self::NEEDED.iter().chain(below))?;
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
            let by_width = ShoulderByWidth::of(body, method).filter(|_| method.slope_by_width);
            let (says, drop) = match by_width {
                Some(solved) => (solved.says(style), solved.drop),
                None => {
                    let slope = method.estimated_slope;
                    let drop = of("shoulder_length") * slope.to_radians().sin();
                    let says =
                        format!("Shoulder slope is estimated at {slope} degrees: measure it before cutting.");
                    (says, drop)
                }
            };
            estimated("shoulder_slope", &says, drop)
        });
        let armhole_depth = body.get("armhole_depth").unwrap_or_else(|| {
            let depth = of("nape_to_waist_back") / 2.0 - 5.0;
            let says = "Armhole depth is estimated from nape to waist: measure it before cutting.";
            estimated("armhole_depth", says, depth)
        });
        Ok(Self {
            neck: of("neck_base_girth"),
            shoulder: of("shoulder_length"),
            slope,
            across_front: of("across_front"),
            across_back: of("across_back"),
            bust: of("bust_girth"),
            upper_bust: of("upper_bust_girth"),
            waist: of("waist_girth"),
            hip: of("hip_girth"),
            span: of("bust_span"),
            bust_depth: of("snp_to_bust_point"),
            front_length: of("snp_to_waist_front"),
            back_length: of("snp_to_waist_back"),
            nape_to_waist: of("nape_to_waist_back"),
            armhole_depth,
            side: of("side_length"),
            waist_to_hip: of("waist_to_hip"),
            shoulder_width: body.get("shoulder_width"),
            armhole_girth: body.get("armhole_girth"),
        })
    }
}

/// Drafts front and back bodice by the direct method. `style` is how refusals write their figures.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_direct(body: &Body, method: &Direct, style: Style) -> Result<Draft, DraftError> {
    refusing(body, style, |body, notes| {
        let readings = DirectReadings::from_body(body, method, false, style, notes)?;
        Ok(drawn(&readings, method, style))
    })
}

/// Drafts front and back dress block to the hip by the direct method.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_dress(
    body: &Body,
    method: &Direct,
    below: &super::Dress,
    style: Style,
) -> Result<Draft, DraftError> {
    refusing(body, style, |body, notes| {
        let readings = DirectReadings::from_body(body, method, true, style, notes)?;
        Ok(dress::drawn(&readings, method, below, style))
    })
}

fn drawn(readings: &DirectReadings, method: &Direct, style: Style) -> Result<Draft, Clash> {
    steep_shoulder(readings, style)?;
    let front = front::draft(readings, method, style)?;
    let back = back::draft(readings, method, &front, style)?;
    let mut notes: Vec<DraftNote> = shoulder_width_note(readings, front.tip, style).into_iter().collect();
    notes.extend(armhole_note(readings, &front.piece, &back.piece, style));
    notes.extend(back.notes);
    notes.extend(front.notes);
    let keeps = if method.balanced {
        // The side dart takes what both seams flare, so that they lean alike (handbook: `blocks.md`, rule 6).
        let flares = front.flare + method.back_flare(front.flare);
        split::mouth_left(&front.piece, flares).clamp(SEWABLE.0, SEWABLE.1)
    } else {
        method.waist_dart_keeps
    };
    let front_piece = if method.one_dart {
        front.piece
    } else {
        split::waist_dart_to_side(front.piece, front.side_at_bust, keeps)
    };
    let mut steps = front.steps;
    if !method.one_dart {
        steps.push(split::step(&front_piece, keeps));
    }
    steps.extend(back.steps);
    Ok(Draft { pattern: Pattern::new(vec![front_piece, back.piece]), steps, notes })
}

/// The shoulder's slope must stay below its length.
pub(super) fn steep_shoulder(r: &DirectReadings, style: Style) -> Result<(), Clash> {
    if r.slope < r.shoulder {
        return Ok(());
    }
    Err(Clash {
        what: format!(
            "a shoulder {} long cannot drop {}",
            style.with_unit(r.shoulder),
            style.with_unit(r.slope)
        ),
        between: ["shoulder_slope", "shoulder_length"],
    })
}

/// The least and the most mouth that a balanced draft leaves its waist dart, in millimetres.
const SEWABLE: (f64, f64) = (12.0, 64.0);

/// A shoulder that is placed by its measured width: where its tip is, its slope follows from its length.
struct ShoulderByWidth {
    /// How far the tip lies below the neck side, in millimetres.
    drop: f64,
    /// Length of the shoulder, in millimetres.
    length: f64,
    /// The tip out from the neck side, in millimetres.
    run: f64,
}

impl ShoulderByWidth {
    /// `None` without a width, or where neck, length and width make no triangle.
    fn of(body: &Body, m: &Direct) -> Option<Self> {
        let (width, length) = (body.get("shoulder_width")?, body.get("shoulder_length")?);
        let neck = body.get("neck_base_girth")? / m.neck_divisor - m.neck_width_less;
        let run = width / 2.0 - neck;
        let drop = (length * length - run * run).max(0.0).sqrt();
        (run > 0.0 && run < length).then_some(Self { drop, length, run })
    }

    /// The slope in degrees where the width is read so much otherwise, in millimetres.
    fn degrees(&self, by: f64) -> f64 {
        ((self.run + by / 2.0) / self.length).clamp(-1.0, 1.0).acos().to_degrees()
    }

    fn says(&self, style: Style) -> String {
        let mark = style.step().mm();
        format!(
            "Shoulder slope is solved from shoulder width and length: {:.0} degrees. Read {} wider it would be {:.0}, \
             narrower {:.0}: measure it before cutting.",
            self.degrees(0.0),
            style.with_unit(mark),
            self.degrees(mark),
            self.degrees(-mark)
        )
    }
}

/// How much an armhole of the pattern may exceed the arm's own before it is doubted, in millimetres (common practice,
/// no source).
const ROOMY_ARMHOLE: f64 = 100.0;

/// Front and back armhole against her own.
pub(super) fn armhole_note(
    readings: &DirectReadings,
    front: &Piece,
    back: &Piece,
    style: Style,
) -> Option<DraftNote> {
    let hers = readings.armhole_girth?;
    let drafted = front.sewn_length(Seam::Armhole) + back.sewn_length(Seam::Armhole);
    let (is_tight, is_roomy) = (drafted < hers, drafted > hers + ROOMY_ARMHOLE);
    (is_tight || is_roomy).then(|| {
        let word = if is_tight { "tighter than" } else { "far roomier than" };
        DraftNote::about(
            "armhole_girth",
            format!(
                "Front and back armhole come to {}, {word} her own of {}: look at armhole depth, across measures and \
                 shoulder.",
                style.with_unit(drafted),
                style.with_unit(hers)
            ),
        )
    })
}

pub(super) fn shoulder_width_note(readings: &DirectReadings, tip: Point, style: Style) -> Option<DraftNote> {
    let width = readings.shoulder_width?;
    let drafted = 2.0 * tip.x;
    let off = (drafted - width).abs() > 20.0;
    off.then(|| {
        DraftNote::about(
            "shoulder_width",
            format!(
                "Shoulder width measured {}, the draft comes to {}: one of shoulder width, shoulder length and neck is doubtful.",
                style.with_unit(width),
                style.with_unit(drafted)
            ),
        )
    })
}

/// A length as a refusal writes it.
pub(super) fn written(mm: f64, style: Style) -> String {
    debug_assert!(Length::from_mm(mm).mm().is_finite(), "a refusal never writes a figure that is no number");
    style.with_unit(mm)
}
