//! A one-piece sleeve, solved from the finished armhole.
//!
//! Back half to the left, front half to the right, the crown at (0, 0). Each half of the cap is as long as its
//! half of the armhole and its share of the ease; the height is the one at which both halves together are as
//! wide as the arm wants. Where that height would lie outside the house's limits, the height gives way no
//! further and the width does.

use kurbo::{Point, Vec2};
use serde::{Deserialize, Serialize};

use super::clash::{Clash, contradiction};
use super::quantity::{Quantity, length, number};
use super::sheet::{Sheet, StepLine, mm};
use super::{Draft, DraftError, DraftNote};
use crate::Style;
use crate::body::Body;
use crate::geometry::Curve;
use crate::geometry::house_curve;
use crate::geometry::root;
use crate::pattern::{
    Edge, Level, LevelName, Notch, PatternMeasure, Piece, PieceKind, Seam, SleeveRule, measure,
};

/// The constants of the sleeve. Common practice, no source.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct SleeveMethod {
    /// Ease at the upper arm, in millimetres.
    pub upper_arm_ease: f64,
    /// Ease at the elbow, in millimetres; as at the upper arm where nothing is said.
    pub elbow_ease: Option<f64>,
    /// Cap less armhole, in millimetres.
    pub cap_ease: f64,
    /// The least cap ease that passes the check.
    pub cap_ease_least: f64,
    /// The most cap ease that passes the check.
    pub cap_ease_most: f64,
    /// The back's share of the cap ease.
    pub back_share: f64,
    /// Least cap height as a share of the armhole's mean depth.
    pub cap_least: f64,
    /// Greatest cap height as a share of the armhole's mean depth.
    pub cap_most: f64,
    /// How much steeper than its chord the cap runs half-way, in degrees.
    pub bulge: f64,
    /// The hem lies this far forward, in millimetres.
    pub hem_lean: f64,
    /// The hem has a slit: it fits the wrist instead of the closed hand.
    pub hem_opens: bool,
    /// The hem is this much wider than the hand or the wrist, in millimetres.
    pub hem_ease: f64,
    /// The elbow lies at this share of the underarm seam.
    pub elbow_share: f64,
}

impl Default for SleeveMethod {
    fn default() -> Self {
        Self {
            upper_arm_ease: 50.0,
            elbow_ease: None,
            cap_ease: 28.0,
            cap_ease_least: 20.0,
            cap_ease_most: 38.0,
            back_share: 0.55,
            cap_least: 0.55,
            cap_most: 0.85,
            bulge: 16.0,
            hem_lean: 12.0,
            hem_opens: false,
            hem_ease: 30.0,
            elbow_share: 0.46,
        }
    }
}

impl SleeveMethod {
    /// The codes the sleeve cannot do without.
    pub const fn needs(&self) -> [&'static str; 3] {
        ["upper_arm_girth", "arm_length", self.hem_by()]
    }

    /// The reading that the hem is made by.
    const fn hem_by(&self) -> &'static str {
        if self.hem_opens { "wrist_girth" } else { "hand_girth" }
    }
}

/// The cap as it was solved, in millimetres.
struct Cap {
    height: f64,
    back: Curve,
    front: Curve,
}

/// One half of a cap: from the crown out by `run` and down by `height`; level at both ends, an S.
pub(crate) fn half(run: f64, height: f64, bulge: f64) -> Curve {
    let crown = Point::ZERO;
    let underarm = Point::new(run, height);
    let middle = crown.midpoint(underarm);
    let steep = height.atan2(run) + bulge.to_radians();
    let way = Vec2::new(steep.cos(), steep.sin());
    let level = Vec2::new(1.0, 0.0);
    let upper = house_curve(crown, level, middle, way);
    let lower = house_curve(middle, way, underarm, level);
    upper.curve.then(lower.curve)
}

/// How far out a half of the cap must run at this height to be this long.
fn run_of(length: f64, height: f64, bulge: f64) -> Option<f64> {
    root(|run| half(run, height, bulge).length() - length, 5.0, length)
}

fn mirrored(curve: &Curve) -> Curve {
    curve.transformed(kurbo::Affine::FLIP_X).reversed()
}

fn cap_of_height(front: f64, back: f64, height: f64, m: &SleeveMethod) -> Option<(f64, Cap)> {
    let (f, b) = (run_of(front, height, m.bulge)?, run_of(back, height, m.bulge)?);
    let cap = Cap { height, back: mirrored(&half(b, height, m.bulge)), front: half(f, height, m.bulge) };
    Some((f + b, cap))
}

/// A closed hem is at least this much wider than the hand that goes through it, in millimetres.
const THROUGH: f64 = 10.0;

/// The hem of a sleeve: by the closed hand, by the wrist where it opens, or as she wishes it.
struct Hem {
    line: StepLine,
    note: Option<DraftNote>,
}

impl Hem {
    fn of(body: &Body, m: &SleeveMethod, width: f64, style: Style) -> Self {
        let by = m.hem_by();
        let girth = body.get(by).unwrap_or_default();
        let least = if m.hem_opens { girth } else { girth + THROUGH };
        if let Some(wish) = body.get("sleeve_opening_girth") {
            let hem = wish.max(least).min(width);
            let note = (hem > wish).then(|| {
                let says = format!(
                    "A hem of {} does not go over {}: it is drawn {} round. Let it open, or make it wider.",
                    style.with_unit(wish),
                    if m.hem_opens { "her wrist" } else { "her hand" },
                    style.with_unit(hem)
                );
                DraftNote::about("sleeve_opening_girth", says)
            });
            return Self { line: StepLine::taken("hem", mm("sleeve_opening_girth", hem)), note };
        }
        let hem = (girth + m.hem_ease.max(least - girth)).min(width);
        let line = (length(by, girth) + length("hem_ease", hem - girth)).named("hem");
        Self { line, note: None }
    }
}

/// Both seams brought out alike at the elbow's level, so that the sleeve is as wide there as it must be. `None` where it
/// is already.
fn over_the_elbow(seams: &[Curve; 2], level: f64, wanted: f64) -> Option<[Curve; 2]> {
    let places = [seams[0].crossing_level(level)?, seams[1].crossing_level(level)?];
    let at = [seams[0].point_at(places[0]), seams[1].point_at(places[1])];
    let missing = wanted - (at[1].x - at[0].x);
    if missing <= 0.0 {
        return None;
    }
    let out = |side: usize| {
        let (seam, along) = (&seams[side], places[side]);
        let by = Vec2::new(if side == 0 { -missing / 2.0 } else { missing / 2.0 }, 0.0);
        let elbow = at[side] + by;
        let way = seam.direction_at(along);
        let part = |from: Point, leaving: Vec2, to: Point, arriving: Vec2| {
            let third = from.distance(to) / 3.0;
            Curve::cubic(from, from + leaving * third, to - arriving * third, to)
        };
        part(seam.start(), seam.start_direction(), elbow, way).then(part(
            elbow,
            way,
            seam.end(),
            seam.end_direction(),
        ))
    };
    Some([out(0), out(1)])
}

/// Sets a sleeve into the armhole of a draft.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn with_sleeve(draft: Draft, body: &Body, m: &SleeveMethod, style: Style) -> Result<Draft, DraftError> {
    super::missing(body, m.needs().iter())?;
    let figures = measure(&draft.pattern);
    let of = |figure| figures.get(figure).unwrap_or_default();
    let depth = {
        let drop = |piece: Option<&Piece>| piece.map_or(0.0, |piece| piece.underarm().y - piece.tip().y);
        drop(draft.pattern.front()).midpoint(drop(draft.pattern.back()))
    };
    // Below its notch an armhole takes the sleeve without ease: the cap's notch lies as far from the underarm.
    let notch = |piece: Option<&Piece>| {
        let on_armhole = piece.and_then(|piece| piece.notches.iter().find(|n| n.seam == Seam::Armhole));
        on_armhole.map_or(0.0, |notch| notch.from_underarm)
    };
    let notches = (notch(draft.pattern.front()), notch(draft.pattern.back()));
    let armhole = (of(PatternMeasure::ArmholeFront), of(PatternMeasure::ArmholeBack));
    let clash = match sleeve(armhole, notches, depth, body, m, style) {
        Ok((piece, sheet, notes)) => {
            let mut draft = draft;
            let rule = SleeveRule {
                least: m.cap_ease_least.min(m.cap_ease),
                most: m.cap_ease_most.max(m.cap_ease),
                back_share: m.back_share,
                elbow: 2.0 * m.hem_lean + 2.0,
            };
            draft.pattern.pieces.push(piece);
            draft.pattern.sleeve_rule = Some(rule);
            draft.steps.extend(sheet.steps);
            draft.notes.extend(notes);
            return Ok(draft);
        }
        Err(clash) => clash,
    };
    let between = clash.between;
    let was = body.get("armhole_depth");
    let clashes = |body: &Body| {
        // A deeper armhole is a longer one on either half.
        let deeper = body.get("armhole_depth").zip(was).map_or(0.0, |(now, was)| now - was);
        let longer = (armhole.0 + deeper, armhole.1 + deeper);
        sleeve(longer, notches, depth + deeper, body, m, style).is_err_and(|again| again.between == between)
    };
    Err(DraftError::Contradiction(Box::new(contradiction(clash, body, style, clashes))))
}

/// The cap set into an armhole, and what the sheet and the notes say of it.
struct SetIn {
    cap: Cap,
    height: f64,
    /// At the biceps line.
    width: f64,
    /// Why the sleeve is not as wide as the arm wants, where it is not.
    note: Option<DraftNote>,
}

/// Steps 1 and 2: both halves of the cap with their ease, and the height at which the sleeve is as wide as the arm wants.
fn set_in(
    (armhole_front, armhole_back): (f64, f64),
    depth: f64,
    body: &Body,
    m: &SleeveMethod,
    style: Style,
    sheet: &mut Sheet,
) -> Result<SetIn, Clash> {
    let of = |code: &str| body.get(code).unwrap_or_default();
    let (arm, long) = (of("upper_arm_girth"), of("arm_length"));
    let wanted = arm + m.upper_arm_ease;
    let ease = || length("cap_ease", m.cap_ease);
    let share = || number("back_share", m.back_share);
    let cap_front = (length("front armhole", armhole_front) + ease() * (Quantity::from(1.0) - share()))
        .named("front of the cap");
    let cap_back = (length("back armhole", armhole_back) + ease() * share()).named("back of the cap");
    let (front, back) = (cap_front.value, cap_back.value);
    let (least, most) = (m.cap_least * depth, m.cap_most * depth);
    let width_at = |height: f64| cap_of_height(front, back, height, m).map_or(f64::NAN, |(width, _)| width);
    let solved = root(|height| width_at(height) - wanted, least, most);
    // Outside the limits the height stands and the width gives way.
    let height = solved.unwrap_or(if width_at(least) < wanted { least } else { most });
    let armhole = || style.with_unit(armhole_front + armhole_back);
    let (width, cap) = cap_of_height(front, back, height, m).ok_or_else(|| Clash {
        what: format!("an armhole of {} takes no cap", armhole()),
        between: ["upper_arm_girth", "armhole_depth"],
    })?;
    if width < arm + (m.upper_arm_ease * 0.4).max(0.0) {
        return Err(Clash {
            what: format!(
                "the sleeve for an armhole of {} is {} round, too tight for the arm",
                armhole(),
                style.with_unit(width)
            ),
            between: ["upper_arm_girth", "armhole_depth"],
        });
    }
    if long < height + 60.0 {
        return Err(Clash {
            what: format!("an arm {} long ends within the cap", style.with_unit(long)),
            between: ["arm_length", "armhole_depth"],
        });
    }
    let note = solved.is_none().then(|| {
        let says = format!(
            "The cap would leave the house's limits: it is {} high, and the sleeve {} round instead of {}.",
            style.with_unit(height),
            style.with_unit(width),
            style.with_unit(wanted)
        );
        DraftNote::about("upper_arm_girth", says)
    });
    sheet
        .step("Take the armhole off the finished front and back, and give each half of the cap its share of the ease.")
        .tell(&cap_front)
        .tell(&cap_back);
    let (under_back, under_front) = (cap.back.start(), cap.front.end());
    sheet
        .step("Find the cap's height: the one at which both halves reach a sleeve as wide as the arm wants.")
        .find(
            "width at the biceps line",
            length("upper_arm_girth", arm) + length("upper_arm_ease", width - arm),
        )
        .take("cap height, solved", mm("height", height))
        .point("crown", Point::ZERO)
        .point("back underarm", under_back)
        .point("front underarm", under_front)
        .rule(under_back, under_front)
        .draw(&cap.back)
        .draw(&cap.front);
    Ok(SetIn { cap, height, width, note })
}

/// Both long seams with the hem between them.
struct Seams {
    back: Curve,
    front: Curve,
    /// Where the elbow line meets them, the back one first.
    elbow: [Point; 2],
}

/// Step 3: length, hem and seams, which bend with the hanging arm; wider at the elbow where hers wants it.
fn seams(
    SetIn { cap, width, .. }: &SetIn,
    body: &Body,
    m: &SleeveMethod,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Seams {
    let of = |code: &str| body.get(code).unwrap_or_default();
    let long = of("arm_length");
    let (under_back, under_front) = (cap.back.start(), cap.front.end());
    let Hem { line: hem_line, note } = Hem::of(body, m, *width, style);
    notes.extend(note);
    let hem = hem_line.value;
    let middle = under_back.midpoint(under_front).x + m.hem_lean;
    let (hem_back, hem_front) = (Point::new(middle - hem / 2.0, long), Point::new(middle + hem / 2.0, long));
    let level = cap.height + (long - cap.height) * m.elbow_share;
    // The back seam bends out at the elbow and the front seam in: the hanging arm's own line.
    let seam = |from: Point, to: Point| {
        let reach = (to.y - from.y) / 3.0;
        let across = (to.x - from.x) / 3.0;
        let lean = Vec2::new(across - m.hem_lean / 6.0, reach);
        let arrive = Vec2::new(across + m.hem_lean / 6.0, reach);
        Curve::cubic(from, from + lean, to - arrive, to)
    };
    let plain = [seam(under_back, hem_back), seam(under_front, hem_front)];
    let elbow_ease = m.elbow_ease.unwrap_or(m.upper_arm_ease).max(0.0);
    let elbow_wanted = body.get("elbow_girth").map(|girth| girth + elbow_ease);
    let [back, front] = match elbow_wanted.and_then(|wanted| over_the_elbow(&plain, level, wanted)) {
        Some(wider) => {
            let says = format!(
                "The sleeve is made wider at the elbow, {} round: her elbow of {} and the ease there.",
                style.with_unit(elbow_wanted.unwrap_or_default()),
                style.with_unit(of("elbow_girth"))
            );
            notes.push(DraftNote::about("elbow_girth", says));
            wider
        }
        None => plain,
    };
    sheet
        .step("Mark the length and the hem, a little forward of the middle; draw the seams. What the back seam is longer is eased over the elbow.")
        .take("sleeve length", mm("arm_length", long))
        .tell(&hem_line)
        .find(
            "eased over the elbow",
            length("back seam", back.length()) - length("front seam", front.length()),
        )
        .draw(&front)
        .draw(&back)
        .rule(hem_back, hem_front);
    let on = |curve: &Curve| {
        curve.crossing_level(level).map_or(Point::new(middle, level), |along| curve.point_at(along))
    };
    Seams { elbow: [&back, &front].map(on), back, front }
}

fn sleeve(
    armholes: (f64, f64),
    (notch_front, notch_back): (f64, f64),
    depth: f64,
    body: &Body,
    m: &SleeveMethod,
    style: Style,
) -> Result<(Piece, Sheet, Vec<DraftNote>), Clash> {
    let mut sheet = Sheet::new(PieceKind::SLEEVE);
    let mut set = set_in(armholes, depth, body, m, style, &mut sheet)?;
    let mut notes: Vec<DraftNote> = set.note.take().into_iter().collect();
    let Seams { back, front, elbow } = seams(&set, body, m, style, &mut sheet, &mut notes);
    let SetIn { cap, height, .. } = set;
    let biceps = vec![cap.back.start(), cap.front.end()];
    let total = cap.back.length() + cap.front.length();
    let hem = Curve::line(front.end(), back.end());
    let ends = back.end().y;
    let piece = Piece {
        levels: vec![
            Level { name: LevelName::Biceps, points: biceps },
            Level { name: LevelName::Elbow, points: elbow.to_vec() },
        ],
        // As far from the underarm as on the garment: below the notches there is no ease.
        notches: vec![
            Notch { seam: Seam::Cap, from_underarm: notch_back, double: true },
            Notch { seam: Seam::Cap, from_underarm: total - notch_front, double: false },
        ],
        ..Piece::bare(
            PieceKind::SLEEVE,
            vec![
                Edge::sewn(Seam::Cap, cap.back),
                Edge::sewn(Seam::Cap, cap.front),
                Edge::sewn(Seam::UnderSleeve, front),
                Edge::sewn(Seam::Hem, hem),
                Edge::sewn(Seam::UnderSleeve, back.reversed()),
            ],
            (Point::new(0.0, height * 0.5), Point::new(0.0, ends - 40.0)),
        )
    };
    Ok((piece, sheet, notes))
}
