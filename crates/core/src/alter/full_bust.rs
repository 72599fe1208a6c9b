//! Full bust and small bust: the front is slashed to the bust point and swung open about a hinge on
//! the armhole (handbook: `alterations.md`, section 2). The armhole keeps its length.

use kurbo::{Affine, Point, Vec2};

use super::darts_in_the_way::{DartsInTheWay, end_outer_dart_short};
use super::full_bust_below_waist::{self, goes_below};
use super::keeps::{BACK, Keeps};
use super::pivot::{has_whole_front, points_at};
use super::two_circles::draw_to;
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
    gather_dart, move_dart,
};
use crate::geometry::{root, turn_degrees};
use crate::pattern::{
    Cut, DartPlace, Join, LevelName, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash,
    SlashError, back_off_points, keep_side_length, true_kinks, true_underarm, true_waist_to,
};
use crate::{PerHalf, Style};

/// Truing reach at the hinge, in millimetres (ours to tune: it costs the armhole up to 0.7).
const HINGE_REACH: f64 = 12.0;

/// The armhole is squared to a side seam that was drawn anew over its last so many millimetres (ours).
const UNDERARM_REACH: f64 = 40.0;

ways! {
    /// Where what opens goes.
    To {
        /// A side dart.
        Side = "side", "stays at the side";
        /// All of it into the waist dart.
        Waist = "waist", "into the waist dart";
        /// Half of it.
        Split = "split", "half to the waist dart";
        /// Gathered at the waist.
        Gathers = "gathers", "gathers at the waist or under-bust seam";
    }
}

ways! {
    /// What becomes of the spread below the waist.
    BelowWaist {
        /// It runs out to the hem.
        ToHem = "to_hem", "runs out to the hem";
        /// It is closed again at the hip.
        AtHip = "at_hip", "closed again at the hip";
    }
}

const PARAMS: [Param; 6] = [
    Param::amount(
        "Full bust",
        MeasuredOn::PerHalf,
        (-60.0, 120.0),
        "What one half front gains at the bust: half of what is missing round the body. Negative takes out.",
    ),
    Param::way(
        "to",
        "Where the new dart goes",
        To::WAYS,
        "What opens can be sewn at the side, turned into the waist dart, shared between them, or gathered in.",
    ),
    Param::share(
        "hinge",
        "Hinge up the armhole",
        (0.2, 0.6),
        Some(1.0 / 3.0),
        "Where the armhole hinges, as a share of its length from the underarm: its notch, or the lower third.",
    ),
    Param::place(
        "bust_point_out",
        "Her bust point from the centre",
        (50.0, 160.0),
        None,
        "Half her bust span: the darts are drawn to it. Left out, they point half-way into the opening.",
    ),
    Param::place(
        "bust_point_down",
        "Her bust point below the neck side",
        (180.0, 420.0),
        None,
        "Her neck side to bust point: the darts are drawn to it.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way(
            "below_waist",
            "Below the waist",
            BelowWaist::WAYS,
            "On a front that goes on below the waist the spread runs out to the hem, or the side comes back to it at the hip.",
        )
    },
];

const ABOUT: About = About {
    code: "full_bust",
    name: "Full bust",
    why: "The bust wants more (or less) width and length in front while shoulders and armhole fit.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Side, Seam::Waist, Seam::DartLeg],
    wants: "a full bust opens a whole bodice front that is shaped at the waist or the side: this pattern has none",
    layer: Layer::Fit,
};

/// What it is told.
struct Params {
    /// What one half front gains at the bust.
    spread: PerHalf,
    to: To,
    /// Where the armhole hinges, as a share of it from the underarm.
    hinge: f64,
    /// Her bust point, out from the centre and down from the neck side, in millimetres.
    bust_point: Option<(f64, f64)>,
    below_waist: BelowWaist,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self {
            spread: args.per_half(),
            to: args.choice("to"),
            hinge: args.of("hinge"),
            bust_point: args.number("bust_point_out").zip(args.number("bust_point_down")),
            below_waist: args.choice("below_waist"),
        }
    }

    /// Her bust point on a front.
    fn bust_point_on(&self, front: &Piece) -> Option<Point> {
        self.bust_point.map(|(out, down)| Point::new(out, front.neck_base_side().y + down))
    }
}

/// Full bust (positive) and small bust (negative), amount per half.
pub(super) struct FullBust;

impl Alteration for FullBust {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        has_whole_front(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            BACK,
            &[
                PatternMeasure::NecklineFront,
                PatternMeasure::ShoulderFront,
                PatternMeasure::SideFront,
                PatternMeasure::AcrossBack,
            ],
        ])
        // The corner at the hinge, drawn smooth: the more the wider it opens.
        .within(1.0, &[&[PatternMeasure::ArmholeFront]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        let Params { spread, below_waist, .. } = Params::of(args);
        let on_body = spread.on_body().0.mm();
        // A front that ends at the waist has no hip.
        let at_hip = match below_waist {
            BelowWaist::ToHem => on_body,
            BelowWaist::AtHip => 0.0,
        };
        vec![(PatternMeasure::Bust, on_body), (PatternMeasure::Hip, at_hip)]
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn asks(&self, pattern: &Pattern, param: &str) -> bool {
        let below = pattern.front().is_some_and(goes_below);
        match param {
            "below_waist" => below,
            "to" => !below,
            _ => true,
        }
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.bust_pivot()?, Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let front = pattern.front().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let params = Params::of(args);
        if goes_below(front) {
            return below_waist(pattern, front, &params, style);
        }
        let spread = params.spread.0.mm();
        // Darts in the way go back before anything is trued, about the bust point as the cloth carried it.
        let (mut clear, aside) = DartsInTheWay::of(front, WorksAcross::BustLine);
        let aside = aside.with_waist_dart_drawn_up(&mut clear);
        let cuts = Cuts::mark(&clear, params.hinge)?;
        let opened = Opening::of(&cuts.marks, cuts.waist_mouth, spread, style)?;
        let slash = cuts.slash(&opened);
        let mut on_table = slash.apply(&clear)?;
        carry_bust_line(&mut on_table, &clear, &opened);
        let taped = aside.back_in_front(&on_table, None)?;
        let half_way = Point::new(cuts.marks.bust.x + spread / 2.0, opened.bust.y);
        let pivot = params.bust_point_on(front).unwrap_or(half_way);
        let trued = true_up(taped.clone(), front, &opened, pivot)?;
        let trued = taken_to(trued, params.to, opened.turn.abs())?;
        let words = words(&cuts, &opened, params.to, style);
        let handle = Handle::new(front.kind, opened.bust, Vec2::new(1.0, 0.0));
        let work = cuts.numbered(&clear, PieceWork::cut(&clear, slash, on_table, trued.clone()));
        let mut done = altered(pattern, &[work], &words);
        done.taped = pattern.clone().with(taped);
        done.work.moved_again = params.to != To::Side;
        aside.tell(&mut done);
        Ok(done.held_at(Some(handle))
            .and(FollowUp::reminder(format!(
                "A front skirt, band or facing at the waist gains {} a half where the dart is not sewn: gather it in, or \
                 add it there too.",
                style.with_unit(spread)
            ))))
    }
}

/// The same on a front that goes on below the waist.
fn below_waist(
    pattern: &Pattern,
    front: &Piece,
    params: &Params,
    style: Style,
) -> Result<Altered, AlterError> {
    if params.to != To::Side {
        return Err(AlterError::not_here(
            "on a front that goes on below the waist the new dart stays at the side: move it in a step of its own",
        ));
    }
    let closes_at_hip = params.below_waist == BelowWaist::AtHip;
    let asked = full_bust_below_waist::Asked {
        spread: params.spread.0.mm(),
        hinge_share: params.hinge,
        bust_point: params.bust_point_on(front),
        closes_at_hip,
    };
    let (work, opened) = full_bust_below_waist::altered(front, &asked, style)?;
    let write = |mm: f64| style.with_unit(mm.abs());
    let (swing, strip) = if opened.by.x > 0.0 { ("open", "Drop") } else { ("lap", "Raise") };
    let below = if closes_at_hip {
        "Below the waist draw the side back to where it was at the hip."
    } else {
        "Below the waist the spread runs out to the hem."
    };
    let words = [
        (
            StageKind::Mark,
            "Rule line 1 from the hem up the middle of the waist dart to the bust point and on to the armhole at its hinge; \
             line 2 along the side dart, or from the side seam at the bust line, to the bust point; line 3 square from the \
             centre to line 1, below the bust."
                .to_owned(),
        ),
        (
            StageKind::Cut,
            "Cut line 1 to the armhole, to the stitching line and not through it: that is the hinge. Cut lines 2 and 3."
                .to_owned(),
        ),
        (
            StageKind::Move,
            format!(
                "Swing the side {swing} about the hinge until the bust point has moved {}; keep line 1 parallel below it. \
                 {strip} the centre strip by {} so that the hem is level again.",
                style.part_with_unit(opened.by.x.abs(), MeasuredOn::PerHalf.parts()),
                write(opened.by.y)
            ),
        ),
        (StageKind::Fill, format!("Tape paper behind what opened. {below}")),
        (
            StageKind::True,
            "Draw the waist dart between its points, wider by what opened, so that the sewn waist stays; draw the side dart \
             to the bust point with equal legs, and smooth the armhole at the hinge."
                .to_owned(),
        ),
    ];
    let handle = Handle::new(front.kind, opened.bust, Vec2::new(1.0, 0.0));
    Ok(altered(pattern, &[work], &words).held_at(Some(handle)))
}

/// What opened at the side, brought to where the dressmaker wants it; an older side dart stays.
fn taken_to(piece: Piece, to: To, turn: f64) -> Result<Piece, AlterError> {
    let bust_darts = [DartPlace::Side, DartPlace::Armhole, DartPlace::Shoulder];
    let Some((from, cut)) =
        bust_darts.into_iter().find_map(|place| Some((place, Cut::along(&piece, place)?)))
    else {
        return Ok(piece);
    };
    let opening = cut.dart.map_or(turn, |(_, opening)| opening);
    let share = (turn / opening).min(1.0);
    let moved = |share| move_dart::moved(&piece, from, DartPlace::Waist, share, None);
    match to {
        To::Waist => Ok(moved(share)?.1),
        To::Split => Ok(moved(share / 2.0)?.1),
        To::Gathers => {
            let (_, turned) = moved(share)?;
            Ok(gather_dart::gathered(&turned, DartPlace::Waist, 1.0)?)
        }
        To::Side => Ok(piece),
    }
}

/// What is marked on a front wherever it ends: bust point, hinge, and where line 2 leaves the side.
pub(super) struct Marks {
    pub(super) bust: Point,
    pub(super) hinge: Point,
    pub(super) on_armhole: Place,
    /// Ends of the runs above and below line 2 at the side.
    pub(super) side: (Place, Place),
    /// The mouth of the side dart that is there.
    pub(super) side_mouth: Option<(Point, Point)>,
}

impl Marks {
    pub(super) fn of(front: &Piece, hinge_share: f64) -> Result<Self, AlterError> {
        let bust = front.bust_pivot().ok_or(SlashError::NoSeam(Seam::DartLeg))?;
        let armhole = front.first_edge(Seam::Armhole).ok_or(SlashError::NoSeam(Seam::Armhole))?;
        let along = front.edges[armhole].curve.length() * (1.0 - hinge_share);
        let hinge = front.edges[armhole].curve.point_at(along);
        if hinge.x <= bust.x || hinge.y >= bust.y {
            return Err(AlterError::not_here(
                "the hinge on the armhole must lie above the bust point and nearer the side: move the hinge",
            ));
        }
        // A dart that is there already is the line: the cut runs along its legs.
        let side = match Cut::along(front, DartPlace::Side) {
            Some(cut) => (cut.before, cut.after),
            None => {
                let edge = front.first_edge(Seam::Side).ok_or(SlashError::NoSeam(Seam::Side))?;
                let along = front.edges[edge].curve.crossing_level(bust.y);
                let at = Place { edge, along: along.ok_or(SlashError::NoSeam(Seam::Side))? };
                (at, at)
            }
        };
        let side_mouth = front.dart(DartPlace::Side).and_then(|_| front.mouth(DartPlace::Side));
        Ok(Self { bust, hinge, on_armhole: Place { edge: armhole, along }, side, side_mouth })
    }

    /// What lies above the cuts: the centre's part, which stays, and the side's upper region, which turns about the hinge.
    pub(super) fn above(&self, on_centre: Place, crossing: Point, opened: &Opening) -> [(Part, Join); 2] {
        let part = |from, to, inner, motion| Part { from, to, inner, motion };
        let turn = Motion::Turn { about: self.hinge, by: opened.turn };
        [
            (part(on_centre, self.on_armhole, vec![self.bust, crossing], Motion::Still), Join::Meet),
            (
                part(self.on_armhole, self.side.0, vec![self.bust], turn),
                Join::Dart(DartPlace::Side, opened.bust),
            ),
        ]
    }
}

/// The three lines as they are marked on a front that ends at the waist.
struct Cuts {
    marks: Marks,
    /// Where line 1 leaves the waist: ends of the runs on the side's and on the centre's side of it.
    waist: (Place, Place),
    on_centre: Place,
    /// Where line 3 meets line 1.
    crossing: Point,
    waist_mouth: Option<(Point, Point)>,
}

impl Cuts {
    /// The numbers of the lines, half-way along each.
    fn numbered(&self, front: &Piece, work: PieceWork) -> PieceWork {
        let at = |place: Place| front.edges[place.edge].curve.point_at(place.along);
        work.with_name("line 1", self.marks.bust.midpoint(self.marks.hinge))
            .with_name("line 2", self.marks.bust.midpoint(at(self.marks.side.0)))
            .with_name("line 3", self.crossing.midpoint(at(self.on_centre)))
    }

    fn mark(front: &Piece, hinge_share: f64) -> Result<Self, AlterError> {
        let marks = Marks::of(front, hinge_share)?;
        let bust = marks.bust;
        let waist = match Cut::along(front, DartPlace::Waist) {
            Some(cut) => (cut.before, cut.after),
            None => {
                let edge = front.first_edge(Seam::Waist).ok_or(SlashError::NoSeam(Seam::Waist))?;
                let plumb = kurbo::Line::new(bust, (bust.x, bust.y + 1000.0));
                let along = front.edges[edge].curve.crossing(plumb).ok_or(SlashError::NoSeam(Seam::Waist))?;
                (Place { edge, along }, Place { edge, along })
            }
        };
        let place = |at: Place| front.edges[at.edge].curve.point_at(at.along);
        let level = bust.y.midpoint(place(waist.1).y);
        let line_1 = kurbo::Line::new(bust, place(waist.1));
        let centre = front.first_edge(Seam::CentreFront).ok_or(SlashError::NoSeam(Seam::CentreFront))?;
        let on_centre =
            front.edges[centre].curve.crossing_level(level).ok_or(SlashError::NoSeam(Seam::CentreFront))?;
        let share = (level - line_1.p0.y) / (line_1.p1.y - line_1.p0.y);
        Ok(Self {
            marks,
            waist,
            on_centre: Place { edge: centre, along: on_centre },
            crossing: line_1.p0 + (line_1.p1 - line_1.p0) * share,
            waist_mouth: front.dart(DartPlace::Waist).and_then(|_| front.mouth(DartPlace::Waist)),
        })
    }

    fn slash(&self, opened: &Opening) -> Slash {
        let by = opened.by;
        let lap_or_gap = if by.y < 0.0 { Join::Lap } else { Join::Gap(Seam::CentreFront) };
        let waist = if self.waist_mouth.is_some() {
            Join::Dart(DartPlace::Waist, opened.bust)
        } else if by.x < 0.0 {
            Join::Lap
        } else {
            Join::Gap(Seam::Waist)
        };
        let part = |from, to, inner, motion| Part { from, to, inner, motion };
        let [above, beside] = self.marks.above(self.on_centre, self.crossing, opened);
        Slash {
            parts: vec![
                above,
                beside,
                (part(self.marks.side.1, self.waist.0, vec![self.marks.bust], Motion::Shift(by)), waist),
                (
                    part(
                        self.waist.1,
                        self.on_centre,
                        vec![self.crossing],
                        Motion::Shift(Vec2::new(0.0, by.y)),
                    ),
                    lap_or_gap,
                ),
            ],
        }
    }
}

/// How far the front opens.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Opening {
    /// Where the bust point goes.
    pub(super) bust: Point,
    /// How far that is.
    pub(super) by: Vec2,
    pub(super) hinge: Point,
    /// Radians; opening is anticlockwise to the eye and so negative.
    pub(super) turn: f64,
}

impl Opening {
    /// How far a front opens by this spread at its bust point: the mouths of its darts say how much can be taken out.
    pub(super) fn of(
        marks: &Marks,
        waist_mouth: Option<(Point, Point)>,
        spread: f64,
        style: Style,
    ) -> Result<Self, AlterError> {
        let (bust, hinge) = (marks.bust, marks.hinge);
        let most = hinge.x - bust.x;
        if spread > most {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::PerHalf,
                spread,
                most,
                "this front opens at its hinge",
                "split it between side and princess seam, or take a larger size",
            ));
        }
        let least = Self::least(marks, waist_mouth);
        if spread <= least {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::PerHalf,
                -spread,
                least,
                "that can be taken out of this front",
                "its darts would be used up; take a smaller size",
            ));
        }
        Ok(Self::at(bust, hinge, spread))
    }

    /// A turn keeps the distance to the hinge, so the depth follows from the width.
    fn at(bust: Point, hinge: Point, spread: f64) -> Self {
        let x = bust.x + spread;
        let below = (bust.distance_squared(hinge) - (x - hinge.x).powi(2)).sqrt();
        let moved = Point::new(x, hinge.y + below);
        Self {
            bust: moved,
            by: moved - bust,
            hinge,
            turn: turn_degrees(bust - hinge, moved - hinge).to_radians(),
        }
    }

    /// The most negative amount: until the side dart or the waist dart is used up, or the bust point
    /// lies level with its hinge.
    fn least(marks: &Marks, waist_mouth: Option<(Point, Point)>) -> f64 {
        let (bust, hinge) = (marks.bust, marks.hinge);
        let level_with_hinge = hinge.x - bust.x - bust.distance(hinge);
        let side_used_up = marks.side_mouth.map_or(0.0, |(upper, lower)| {
            let angle = turn_degrees(upper - bust, lower - bust).to_radians();
            let turned = Affine::rotate_about(angle.abs(), hinge) * bust;
            turned.x - bust.x
        });
        let waist_used_up = waist_mouth.map_or(f64::NEG_INFINITY, |(side, centre)| centre.x - side.x);
        level_with_hinge.max(side_used_up).max(waist_used_up)
    }
}

fn true_up(mut piece: Piece, front: &Piece, opened: &Opening, pivot: Point) -> Result<Piece, AlterError> {
    let waist = piece.sewn_length(Seam::Waist);
    true_kinks(&mut piece, Seam::Armhole, HINGE_REACH);
    let darts = piece.darts.clone();
    for dart in darts.iter().filter(|dart| points_at(dart, opened.bust)) {
        draw_to(&mut piece, dart.place, pivot + (dart.pivot - opened.bust))?;
    }
    true_underarm(&mut piece, UNDERARM_REACH);
    keep_side_length(&mut piece, front.sewn_length(Seam::Side));
    true_waist_to(&mut piece, waist);
    end_outer_dart_short(&mut piece);
    back_off_points(&mut piece);
    Ok(piece)
}

/// Marks nearer than this are one, in millimetres.
const SAME_MARK: f64 = 0.01;
/// The bust line's mark is looked for so far up and down, in millimetres.
const MARK_REACH: f64 = 5.0;

/// The bust line runs from the centre, level, to where the cloth of the bust point was carried, and on
/// to the side, which went with the upper region. Set here, since its points lie on region borders.
pub(super) fn carry_bust_line(piece: &mut Piece, front: &Piece, opened: &Opening) {
    let of_bust = |level: &&mut crate::pattern::Level| level.name == LevelName::Bust;
    let Some(level) = piece.levels.iter_mut().find(of_bust) else { return };
    let old = front.level(LevelName::Bust).map_or(&[][..], |level| &level.points);
    if let ([centre, mid, side], [_, old_mid, old_side]) = (level.points.as_mut_slice(), old) {
        *mid = *old_mid + opened.by;
        *side = Affine::rotate_about(opened.turn, opened.hinge) * *old_side;
        // Where the darts were drawn to another point than the line's own mark, that does not go the same way as the bust
        // point: it is marked where the line has grown by the spread.
        if old_mid.distance(opened.bust - opened.by) > SAME_MARK {
            let wanted = old_mid.distance(*old_side) + old_mid.x + opened.by.x;
            let off = |y: f64| Point::new(mid.x, y).distance(*side) + mid.x - wanted;
            mid.y = root(off, mid.y - MARK_REACH, mid.y + MARK_REACH).unwrap_or(mid.y);
        }
        centre.y = mid.y;
    }
}

fn words(cuts: &Cuts, opened: &Opening, to: To, style: Style) -> [(StageKind, String); 5] {
    let write = |mm: f64| style.with_unit(mm.abs());
    let line_1 = if cuts.waist_mouth.is_some() {
        "along the waist dart"
    } else {
        "from the waist, parallel to the grain,"
    };
    let line_2 = if cuts.marks.side_mouth.is_some() {
        "along the side dart"
    } else {
        "from the side seam at the bust line"
    };
    let (swing, strip) = if opened.by.x > 0.0 { ("open", "Drop") } else { ("lap", "Raise") };
    let turned = match to {
        To::Waist => " Fold the new side dart shut, so that it opens into the waist dart.",
        To::Split => " Fold half of the new side dart shut, so that it opens into the waist dart.",
        To::Gathers => {
            " Fold the new side dart shut; what opens at the waist is gathered in between two notches."
        }
        To::Side => "",
    };
    [
        (
            StageKind::Mark,
            format!(
                "Rule line 1 {line_1} up to the bust point and on to the armhole at its hinge; line 2 {line_2} to the bust \
                 point; line 3 square from the centre to line 1, below the bust."
            ),
        ),
        (
            StageKind::Cut,
            "Cut line 1 to the armhole, to the stitching line and not through it: that is the hinge. Cut lines 2 and 3."
                .to_owned(),
        ),
        (
            StageKind::Move,
            format!(
                "Swing the side {swing} about the hinge until the bust point has moved {}; keep line 1 parallel below it. {strip} \
                 the centre strip by {} so that the waist is level again.",
                style.part_with_unit(opened.by.x.abs(), MeasuredOn::PerHalf.parts()),
                write(opened.by.y)
            ),
        ),
        (
            StageKind::Fill,
            "Tape paper behind what opened and draw the outline on; leave the darts open.".to_owned(),
        ),
        (
            StageKind::True,
            format!(
                "Draw both darts to the bust point and back their points off; make the legs equal, smooth the armhole at the \
                 hinge, and fold the darts to draw the waist and the side across them.{turned}"
            ),
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Worked figures (handbook: `alterations.md`, section 4).
    #[test]
    fn the_bust_point_goes_where_the_worked_figure_says() {
        let opened = Opening::at((95.0, 265.0).into(), (170.0, 150.0).into(), 38.1);
        assert!((opened.bust.x - 133.1).abs() < 1e-9);
        assert!((opened.bust.y - 282.244).abs() < 5e-4, "{}", opened.bust.y);
        assert!((opened.turn.to_degrees() + 17.521).abs() < 5e-4, "{}", opened.turn.to_degrees());
    }

    /// Check values, section 6: hinge (165, 140), bust point (95, 265), leg 150.748.
    #[test]
    fn turn_drop_and_mouth_follow_the_published_table() {
        let (bust, hinge) = (Point::new(95.0, 265.0), Point::new(165.0, 140.0));
        for (spread, turn, drop, mouth) in [
            (6.35, 2.8715, 3.350, 7.554),
            (12.7, 5.6734, 6.308, 14.921),
            (19.05, 8.4166, 8.900, 22.124),
            (25.4, 11.1106, 11.146, 29.187),
        ] {
            let opened = Opening::at(bust, hinge, spread);
            let chord = 2.0 * 150.748 * (opened.turn.abs() / 2.0).sin();
            assert!((opened.turn.to_degrees() + turn).abs() < 1e-4, "{spread}: {}", opened.turn.to_degrees());
            assert!((opened.bust.y - bust.y - drop).abs() < 1e-3, "{spread}");
            assert!((chord - mouth).abs() < 1e-3, "{spread}");
        }
    }
}
