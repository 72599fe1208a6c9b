//! The straight skirt: waist, hip, waist to hip and length, all four as they are measured (handbook: `wishes.md`,
//! section 7). What the waist is narrower than the hip goes into the side seams and into darts.

use kurbo::{Point, Vec2};
use serde::{Deserialize, Serialize};

use super::clash::{Clash, refusing};
use super::direct::{Draft, DraftError, DraftNote, written};
use super::quantity::{Quantity, length, number};
use super::sheet::{Sheet, StepLine, mm};
use crate::Style;
use crate::body::Body;
use crate::ease::EaseSet;
use crate::geometry::Curve;
use crate::pattern::{
    Covers, LevelName, Pattern, Piece, PieceKind, SkirtDart, SkirtHalf, WAIST_DART_LIMIT, WaistSeam,
};

/// A waist with its ease may exceed the hip with its ease by this, all round, in millimetres: beyond it the belly is what
/// the skirt hangs from.
const WIDER_WAIST: f64 = 40.0;
/// A skirt ends at least this far below the hip, in millimetres.
pub(crate) const LEAST_BELOW_HIP: f64 = 60.0;

/// The constants of the skirt. Every one is common practice, no source.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Skirt {
    /// Ease at the waist, all round, in millimetres.
    pub waist_ease: f64,
    /// Ease at the hip, all round, in millimetres.
    pub hip_ease: f64,
    /// What the front takes over a quarter of a girth, in millimetres.
    pub front_share: f64,
    /// Each side edge takes this part of what half the waist is narrower.
    pub side_divisor: f64,
    /// And at most this, in millimetres.
    pub side_most: f64,
    /// The front's share of what is left for darts.
    pub front_dart_share: f64,
    /// A dart narrower than this goes into the side seam, in millimetres.
    pub least_dart: f64,
    /// Up to this intake the front has one dart, above it two, in millimetres.
    pub one_front_dart: f64,
    /// The same of the back.
    pub one_back_dart: f64,
    /// Front darts end this far above the hip line, in millimetres.
    pub front_dart_above_hip: f64,
    /// The back dart, or the inner one of two, ends this far above the hip line, in millimetres.
    pub back_dart_above_hip: f64,
    /// The outer one of two ends this far above it, in millimetres.
    pub outer_back_dart_above_hip: f64,
    /// The waist rises at the side by this, in millimetres.
    pub side_raised: f64,
    /// It drops at the centre back by this, in millimetres.
    pub back_lowered: f64,
    /// How long it is where no length is wished, in millimetres.
    pub usual_length: f64,
}

impl Default for Skirt {
    fn default() -> Self {
        Self {
            waist_ease: 10.0,
            hip_ease: 40.0,
            front_share: 9.5,
            side_divisor: 6.0,
            side_most: 30.0,
            front_dart_share: 0.4,
            least_dart: 6.0,
            one_front_dart: 25.0,
            one_back_dart: 32.0,
            front_dart_above_hip: 90.0,
            back_dart_above_hip: 50.0,
            outer_back_dart_above_hip: 65.0,
            side_raised: 12.0,
            back_lowered: 6.0,
            usual_length: 600.0,
        }
    }
}

impl Skirt {
    /// The readings it cannot do without.
    pub const NEEDED: [&str; 3] = ["waist_girth", "hip_girth", "waist_to_hip"];

    /// The darts of the front or the back for what they take in together, centre first: none, one or two.
    pub(crate) fn darts(&self, covers: Covers, taken_in: f64) -> Vec<SkirtDart> {
        let (one_up_to, ends) = match covers {
            Covers::Front => (self.one_front_dart, [self.front_dart_above_hip; 2]),
            _ => (self.one_back_dart, [self.back_dart_above_hip, self.outer_back_dart_above_hip]),
        };
        let count = match taken_in {
            mouth if mouth < self.least_dart => 0,
            mouth if mouth <= one_up_to => 1,
            _ => 2,
        };
        let dart = |above_hip| SkirtDart { mouth: taken_in / count as f64, above_hip, from_centre: None };
        ends.into_iter().take(count).map(dart).collect()
    }

    /// The same with the ease of a set for a body.
    #[must_use]
    pub(super) fn with_ease(self, set: &EaseSet, body: &Body) -> Self {
        let of = |code, wearing, design| body.get(code).unwrap_or_default() * set.stretch + wearing + design;
        Self {
            waist_ease: set.over_natural_waist(body),
            hip_ease: of("hip_girth", set.hip, set.design.hip),
            ..self
        }
    }
}

/// The readings the skirt is drafted from, in millimetres.
struct Readings {
    waist: f64,
    hip: f64,
    waist_to_hip: f64,
    /// Down the side, from the waist to the hem.
    length: f64,
    /// Down the side from the waist, where they are known: knee, ankle and floor.
    levels: [(LevelName, Option<f64>); 3],
}

impl Readings {
    fn of(body: &Body, m: &Skirt, style: Style, notes: &mut Vec<DraftNote>) -> Result<Self, DraftError> {
        super::missing(body, Skirt::NEEDED.iter())?;
        let of = |code: &str| body.get(code).unwrap_or_default();
        let length = body.get("skirt_length").unwrap_or_else(|| {
            let says =
                format!("No skirt length is wished: it is drawn {} long.", written(m.usual_length, style));
            notes.push(DraftNote::about("skirt_length", says));
            m.usual_length
        });
        Ok(Self {
            waist: of("waist_girth"),
            hip: of("hip_girth"),
            waist_to_hip: of("waist_to_hip"),
            length,
            levels: [
                (LevelName::Knee, body.get("waist_to_knee")),
                (LevelName::Ankle, body.get("waist_to_ankle")),
                (LevelName::Floor, body.get("waist_to_floor")),
            ],
        })
    }

    /// Refuses what no straight skirt can be drafted from.
    fn is_possible(&self, m: &Skirt, style: Style) -> Result<(), Clash> {
        let write = |mm| written(mm, style);
        let (waist, hip) = (self.waist + m.waist_ease, self.hip + m.hip_ease);
        if waist > hip + WIDER_WAIST {
            return Err(Clash {
                what: format!(
                    "a waist of {} with its ease is more than {} wider than a hip of {} with its ease: such a skirt hangs \
                     from the belly, and is drafted to its girth in place of the hip",
                    write(waist),
                    write(WIDER_WAIST),
                    write(hip)
                ),
                between: ["waist_girth", "hip_girth"],
            });
        }
        if self.length < self.waist_to_hip + LEAST_BELOW_HIP {
            return Err(Clash {
                what: format!(
                    "a skirt {} long ends less than {} below a hip {} below the waist",
                    write(self.length),
                    write(LEAST_BELOW_HIP),
                    write(self.waist_to_hip)
                ),
                between: ["skirt_length", "waist_to_hip"],
            });
        }
        Ok(())
    }
}

/// What one half of a skirt is drawn from.
struct Plan {
    kind: PieceKind,
    /// Where the waist meets the centre line.
    centre: Point,
    hip_width: StepLine,
    /// What half the waist is narrower in all, what each side edge takes of it, and what is left for the darts.
    taken_in: [StepLine; 3],
    /// What all its own darts take in.
    darts: StepLine,
    waist: StepLine,
    /// How wide each dart is, and how far above the hip line it ends, centre first.
    each: Vec<SkirtDart>,
}

/// The widths of front and back.
fn plans(r: &Readings, m: &Skirt, style: Style) -> Result<[Plan; 2], Clash> {
    let waist = || length("waist_girth", r.waist) + length("ease at the waist", m.waist_ease);
    let hip = || length("hip_girth", r.hip) + length("ease at the hip", m.hip_ease);
    let share = || length("skirt_front_share", m.front_share);
    let taken_in = ((hip() - waist()) / 2.0).named("half a waist less than half a hip");
    let divisor = number("skirt_side_divisor", m.side_divisor);
    let side = (taken_in.quantity() / divisor)
        .at_most(length("skirt_side_most", m.side_most))
        .named("each side edge");
    let darts_all = (taken_in.quantity() - side.quantity() * 2.0).named("left for the darts");
    let front_share = number("skirt_front_dart_share", m.front_dart_share);
    let in_front = (darts_all.quantity() * front_share).named("darts in front");
    let behind = (darts_all.quantity() - in_front.quantity()).named("darts behind");
    let plan = |kind: PieceKind, centre, hip_width: StepLine, darts: StepLine| {
        let each = m.darts(kind.covers(), darts.value);
        if let Some(dart) = each.first().filter(|dart| dart.mouth > WAIST_DART_LIMIT) {
            return Err(Clash {
                what: format!(
                    "each of two darts would take in {}, above the {} that sew flat",
                    written(dart.mouth, style),
                    written(WAIST_DART_LIMIT, style)
                ),
                between: ["waist_girth", "hip_girth"],
            });
        }
        let waist = (hip_width.quantity() - side.quantity() - darts.quantity()).named("sewn waist");
        let taken_in = [taken_in.clone(), side.clone(), darts_all.clone()];
        Ok(Plan { kind, centre, hip_width, taken_in, darts, waist, each })
    };
    let front_hip = (hip() / 4.0 + share()).named("hip width");
    let back_hip = (hip() / 4.0 - share()).named("hip width");
    let at_centre = Point::new(0.0, m.back_lowered);
    let front = plan(PieceKind::SKIRT_FRONT, Point::ZERO, front_hip, in_front)?;
    let back = plan(PieceKind::SKIRT_BACK, at_centre, back_hip, behind)?;
    Ok([front, back])
}

impl Plan {
    fn half(&self, r: &Readings, m: &Skirt) -> SkirtHalf {
        SkirtHalf {
            kind: self.kind,
            centre: self.centre,
            hip_width: self.hip_width.value,
            waist: self.waist.value,
            waist_to_hip: r.waist_to_hip,
            side_raised: m.side_raised,
            darts: self.each.clone(),
        }
    }

    fn draft(&self, r: &Readings, m: &Skirt, style: Style, sheet: &mut Sheet) -> Result<Piece, Clash> {
        let half = self.half(r, m);
        let solved = half.solved().ok_or_else(|| Clash {
            what: format!(
                "a waist of {} and a hip of {} cannot be joined over {}",
                written(r.waist, style),
                written(r.hip, style),
                written(r.waist_to_hip, style)
            ),
            between: ["waist_to_hip", "waist_girth"],
        })?;
        let below_hip = (Quantity::of(mm("skirt_length", r.length))
            - Quantity::of(mm("waist_to_hip", r.waist_to_hip)))
        .named("hip to hem");
        self.tell(&solved.seam, &solved.side, &below_hip, m, sheet);
        let known = r.levels.iter().filter_map(|(name, mm)| Some((*name, (*mm)? - r.waist_to_hip)));
        Ok(half.piece(&solved, below_hip.value, &known.collect::<Vec<_>>()))
    }

    /// What the sheet says of it.
    fn tell(&self, seam: &WaistSeam, side: &Curve, below_hip: &StepLine, m: &Skirt, sheet: &mut Sheet) {
        let (waist, hip) = (side.start(), side.end());
        let down = Vec2::new(0.0, below_hip.value);
        let centre_hip = Point::new(0.0, hip.y);
        sheet
            .step("Rule the centre, and the hip square to it; half the waist is narrower than half the hip by what side and darts take in.")
            .tell(&self.hip_width);
        for line in &self.taken_in {
            sheet.tell(line);
        }
        sheet
            .tell(&self.darts)
            .tell(&self.waist)
            .point("A", self.centre)
            .point("H", hip)
            .rule(centre_hip, hip);
        let raised = Quantity::of(mm("skirt_side_raised", m.side_raised)).named("waist raised at the side");
        let to_hip = Quantity::of(mm("waist_to_hip", side.length())).named("side from waist to hip");
        sheet
            .step("Draw the side hollow from the hip to the waist, as long as she measures; the waist rises to it and leaves the centre square.")
            .tell(&raised)
            .tell(&to_hip)
            .point("W", waist)
            .draw(side);
        sheet.step(if self.each.is_empty() {
            "Draw the waist; so little is left for darts that it goes into the side."
        } else {
            "Draw the waist and open the darts in it, each about its lower end, with legs of one length; the waist runs on without a corner when they are folded."
        });
        for (dart, name) in seam.darts.iter().zip(["dart", "outer dart"]) {
            sheet
                .take(name, mm("each dart", dart.mouth))
                .point(if name == "dart" { "D" } else { "E" }, dart.foot);
        }
        for edge in seam.edges() {
            sheet.draw(&edge.curve);
        }
        sheet
            .step("Rule side and hem straight down from the hip.")
            .tell(below_hip)
            .point("S", hip + down)
            .rule(hip, hip + down)
            .rule(hip + down, centre_hip + down);
    }
}

/// Drafts a straight skirt.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_skirt(body: &Body, method: &Skirt, style: Style) -> Result<Draft, DraftError> {
    refusing(body, style, |body, notes| {
        let readings = Readings::of(body, method, style, notes)?;
        Ok(drawn(&readings, method, style))
    })
}

fn drawn(r: &Readings, m: &Skirt, style: Style) -> Result<Draft, Clash> {
    r.is_possible(m, style)?;
    let (mut pieces, mut steps) = (Vec::new(), Vec::new());
    for plan in plans(r, m, style)? {
        let mut sheet = Sheet::new(plan.kind);
        pieces.push(plan.draft(r, m, style, &mut sheet)?);
        steps.extend(sheet.steps);
    }
    Ok(Draft { pattern: Pattern::new(pieces), steps, notes: Vec::new() })
}
