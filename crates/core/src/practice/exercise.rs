//! A fitting to practise on: a figure, a pattern that does not fit her, and what a fitter would see of it.
//!
//! A block is drafted for a figure of a size table. The figure is then taken to be another by so much of a hidden cause: what
//! the cause's alteration would change on the block is what she is off by. Readings and level lines are that difference,
//! measured; what is seen are the cause's own signs.

use std::collections::{BTreeMap, HashMap};
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use super::chance::Chance;
use super::drawing::PracticeFigure;
use super::judge::right_within;
use crate::alter::{Amounts, Decided, MeasuredOn, Recipe, alteration, apply, make};
use crate::body::{Body, Side};
use crate::compare::compare;
use crate::draft::{Method, MethodKind, draft, size_table};
use crate::ease::ease_set;
use crate::fitting::{
    BalanceLine, Cause, Evidence, LevelOff, Lie, Observation, ObservationKind, Off, Sign, Station, Worn,
    cause, causes, next_door, taken_for, weigh,
};
use crate::pattern::{Garment, Pattern, PatternMeasure, PatternMeasures, measure};
use crate::{Shown, Style, Unit};

/// How hard an exercise is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Difficulty {
    /// Plain signs, every level line, readings that can be believed.
    Easy,
    /// Fewer signs; a reading may be wrong.
    Middle,
    /// A sign next door, a reading that is wrong, or two causes at once.
    Hard,
}

impl Difficulty {
    /// All of them, the easiest first.
    pub const ALL: [Self; 3] = [Self::Easy, Self::Middle, Self::Hard];

    /// The word for it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Easy => "easy",
            Self::Middle => "middle",
            Self::Hard => "hard",
        }
    }
}

/// A figure of hers beside the pattern's.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeReading {
    /// The figure.
    pub figure: PatternMeasure,
    /// Its name.
    pub name: String,
    /// Her body with its ease.
    pub hers: Shown,
    /// The pattern that is on her.
    pub pattern: Shown,
    /// Hers less the pattern's.
    pub off: Shown,
}

/// One answer that can be given.
pub(super) struct Choice {
    pub(super) says: String,
    pub(super) is_right: bool,
    pub(super) is_near: bool,
}

/// What a learner is shown of a fitting; nothing of what is behind it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeFitting {
    /// Its number: the same number makes the same exercise.
    pub seed: u64,
    /// How hard it is.
    pub difficulty: Difficulty,
    /// What she has on, in words.
    pub worn: String,
    /// The figure, with what is seen on it.
    pub figure: PracticeFigure,
    /// What is seen, in words, once the learner has named the first of it.
    pub seen: Vec<String>,
    /// Her figures beside the pattern's; one of them may have been read wrong.
    pub readings: Vec<PracticeReading>,
    /// What it could be that is marked with an A.
    pub sights: Vec<String>,
    /// What could be tried on the toile.
    pub tests: Vec<String>,
    /// What it could come from.
    pub causes: Vec<String>,
    /// The amount's name and what it is measured on; none where nothing tells it.
    pub amount: Option<String>,
    /// What could have to follow.
    pub follows: Vec<String>,
}

/// A cause behind what is seen.
#[derive(Clone, Debug)]
pub(super) struct Hidden {
    pub(super) cause: &'static Cause,
    /// What its alteration is told, in millimetres.
    pub(super) mm: f64,
    pub(super) side: Side,
}

/// An exercise, with what is behind it.
pub struct Exercise {
    /// What the learner is shown.
    pub shown: PracticeFitting,
    /// All that a second opinion would be given: what is shown, as evidence.
    pub evidence: Evidence,
    pub(super) hidden: Vec<Hidden>,
    /// The reading that was read wrong.
    pub(super) misread: Option<PatternMeasure>,
    pub(super) sights: Vec<Choice>,
    pub(super) asked: Vec<&'static Cause>,
    pub(super) follows: Vec<Choice>,
}

impl Exercise {
    /// Codes of the causes that are behind it, the first one asked for.
    pub fn causes(&self) -> Vec<&'static str> {
        self.hidden.iter().map(|hidden| hidden.cause.code.as_str()).collect()
    }
}

/// What is worn, and the block it was cut from.
struct Cut {
    garment: Garment,
    worn: Worn,
    says: &'static str,
    pattern: Pattern,
}

const FINE: Style = Style::TENTHS;

/// What can be put on a figure, the plainest first.
fn cuts(body: &Body) -> Vec<Cut> {
    let drafted = |kind: MethodKind, with_sleeve: bool| {
        let method = Method { kind, with_sleeve, ..Method::default() };
        draft(body, &method, FINE).ok().map(|draft| draft.pattern)
    };
    let cut = |says: &'static str, pattern: Option<Pattern>| {
        let pattern = pattern?;
        Some(Cut { garment: pattern.garment(), worn: Worn::of(&pattern), says, pattern })
    };
    let princess = |pattern: Pattern| {
        let mut recipe = Recipe::default();
        recipe.take(Decided::new("princess_line", Amounts::of(0.0), ""));
        let made = make(&pattern, &recipe, FINE);
        made.is_whole().then_some(made.pattern)
    };
    let bodice = drafted(MethodKind::Direct, true);
    [
        cut("a bodice toile with sleeves", bodice.clone()),
        cut("a dress toile with sleeves", drafted(MethodKind::Dress, true)),
        cut("a skirt toile", drafted(MethodKind::Skirt, false)),
        cut("a bodice toile without sleeves", drafted(MethodKind::Direct, false)),
        cut("a princess bodice toile with sleeves", bodice.and_then(princess)),
        cut("a princess bodice toile without sleeves", drafted(MethodKind::Direct, false).and_then(princess)),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// The causes that can be practised: what is altered for each of them can be shown on a toile. Found once, on a middle figure.
pub fn practised_causes() -> &'static [&'static Cause] {
    static PRACTISED: LazyLock<Vec<&'static Cause>> = LazyLock::new(|| {
        let table = size_table("medium");
        let middle = table.and_then(|table| table.figure(&table.sizes[table.sizes.len() / 2].label));
        let cuts = middle.as_ref().map_or_else(Vec::new, cuts);
        let is_shown = |cause: &&'static Cause| {
            cuts.iter().any(|cut| hide(cause, cut, Difficulty::Easy, &mut Chance::new(1)).is_some())
        };
        causes().iter().filter(is_shown).collect()
    });
    &PRACTISED
}

/// What a cause makes of a figure: what she is off by, in every figure of the pattern.
struct Behind {
    hidden: Hidden,
    more: BTreeMap<PatternMeasure, f64>,
}

fn hide(cause: &'static Cause, cut: &Cut, difficulty: Difficulty, chance: &mut Chance) -> Option<Behind> {
    if !cause.goes_with(&cut.worn) {
        return None;
    }
    let (code, usual) = cause.corrected_by(cut.garment)?;
    let (low, high) = match difficulty {
        Difficulty::Easy => (1.0, 1.6),
        Difficulty::Middle => (0.8, 1.4),
        Difficulty::Hard => (0.7, 1.2),
    };
    let share = chance.between(low, high);
    let known = alteration(code)?;
    let before = measure(&cut.pattern);
    // Where so much cannot be done on this block, a little less of it is behind it.
    [1.0, 0.75, 0.5].into_iter().find_map(|less| {
        let mm = ((usual * share * less).round()).clamp(-60.0, 60.0);
        let amounts = cause.told(cut.garment, mm)?;
        let after = measure(&apply(known, &cut.pattern, &amounts, None, FINE).ok()?.pattern);
        let more = after.iter().filter_map(|(figure, mm)| Some((figure, mm - before.get(figure)?)));
        let side = cause.side_or(if chance.percent(50.0) { Side::Left } else { Side::Right });
        Some(Behind { hidden: Hidden { cause, mm, side }, more: more.collect() })
    })
}

/// A figure of the size table, and a little of her own.
pub(super) fn figure(chance: &mut Chance) -> Option<Body> {
    /// Readings that differ together from the table's, and by how much at most, in millimetres.
    const OWN: [(&[&str], f64); 8] = [
        (&["bust_girth", "upper_bust_girth"], 15.0),
        (&["waist_girth"], 15.0),
        (&["hip_girth"], 15.0),
        (&["shoulder_length"], 3.0),
        (&["across_front", "across_back"], 5.0),
        (&["nape_to_waist_back", "snp_to_waist_back", "snp_to_waist_front", "side_length"], 10.0),
        (&["arm_length"], 12.0),
        (&["upper_arm_girth"], 8.0),
    ];
    let table = size_table("medium")?;
    let size = chance.one_of(&table.sizes)?;
    let body = table.figure(&size.label)?;
    Some(OWN.iter().fold(body, |body, (codes, most)| {
        let by = chance.between(-most, *most);
        codes.iter().fold(body, |body, code| match body.get(code) {
            Some(mm) => body.with(code, mm + by),
            None => body,
        })
    }))
}

/// The exercise of a number. `None` where the cause of that number cannot be shown on any toile.
pub fn exercise(seed: u64, difficulty: Difficulty, style: Style) -> Option<Exercise> {
    let mut chance = Chance::new(seed.wrapping_mul(3).wrapping_add(difficulty as u64));
    let all = practised_causes();
    let first = all[(seed % all.len() as u64) as usize];
    let body = figure(&mut chance)?;
    let cuts = cuts(&body);
    let (cut, off) = cuts.iter().find_map(|cut| Some((cut, hide(first, cut, difficulty, &mut chance)?)))?;
    let second = (difficulty == Difficulty::Hard && chance.percent(30.0))
        .then(|| beside(first, cut, all, &mut chance))
        .flatten();
    let offs: Vec<Behind> = std::iter::once(off).chain(second).collect();
    let mut more: BTreeMap<PatternMeasure, f64> = BTreeMap::new();
    for (figure, mm) in offs.iter().flat_map(|off| &off.more) {
        *more.entry(*figure).or_default() += mm;
    }
    let pattern = measure(&cut.pattern);
    let (readings, misread, figures) = read(&body, &pattern, &more, difficulty, &mut chance, style)?;
    let level = levels(cut.garment, &more, &offs[0].hidden, difficulty, &mut chance);
    let seen = sights(&offs, cut.garment, difficulty, &mut chance);
    let follows = follows(&more);
    let mut asked = candidates(first, cut, all, &mut chance);
    chance.shuffle(&mut asked);
    let choices = choices(seen.first()?, &mut chance);
    let (code, _) = first.corrected_by(cut.garment)?;
    let known = alteration(code)?;
    let evidence =
        Evidence { seen, figures, level, garment: cut.garment, worn: cut.worn, ..Evidence::default() };
    let hidden: Vec<Hidden> = offs.into_iter().map(|off| off.hidden).collect();
    let shown = PracticeFitting {
        seed,
        difficulty,
        worn: cut.says.to_owned(),
        figure: PracticeFigure::of(&body, &evidence.seen, &evidence.level, style),
        seen: evidence.seen.iter().map(|seen| said(seen, style)).collect(),
        readings,
        sights: choices.iter().map(|choice| choice.says.clone()).collect(),
        tests: asked.iter().map(|cause| cause.test.clone()).collect(),
        causes: asked.iter().map(|cause| cause.title.clone()).collect(),
        amount: is_told(&evidence, &hidden[0], style).then(|| {
            let on = first.measured_on(cut.garment).map_or("", MeasuredOn::words);
            format!("{} {on}", known.name()).trim().to_owned()
        }),
        follows: follows.iter().map(|choice| choice.says.clone()).collect(),
    };
    Some(Exercise { shown, evidence, hidden, misread, sights: choices, asked, follows })
}

/// Whether what is shown tells the amount: it can be read from it as the rules say, near enough to be right.
fn is_told(evidence: &Evidence, hidden: &Hidden, style: Style) -> bool {
    let offered = weigh(evidence, style).offered;
    let own = offered.iter().find(|offered| offered.cause == hidden.cause.code);
    let offer = own.and_then(|offered| offered.answer.offer()).filter(|offer| !offer.is_guess);
    offer.is_some_and(|offer| (offer.amount.mm - hidden.mm).abs() <= right_within(hidden.mm))
}

/// A second cause on the same toile: none that is taken for the first, or undoes it.
fn beside(first: &'static Cause, cut: &Cut, all: &[&'static Cause], chance: &mut Chance) -> Option<Behind> {
    let mut others: Vec<&'static Cause> = all
        .iter()
        .copied()
        .filter(|other| {
            other.code != first.code
                && !first.is_neighbour_of(other)
                && !first.is_opposite_of(other)
                && other.corrected_by(cut.garment).is_some()
        })
        .collect();
    chance.shuffle(&mut others);
    others.into_iter().take(6).find_map(|other| hide(other, cut, Difficulty::Middle, chance))
}

type Read = (Vec<PracticeReading>, Option<PatternMeasure>, HashMap<PatternMeasure, Off>);

/// Her figures beside the pattern's, as far as they were taken: one of them may be wrong.
fn read(
    body: &Body,
    pattern: &PatternMeasures,
    more: &BTreeMap<PatternMeasure, f64>,
    difficulty: Difficulty,
    chance: &mut Chance,
    style: Style,
) -> Option<Read> {
    let ease = ease_set("standard", Unit::Cm)?;
    let rows = compare(body, pattern, ease, style).rows;
    let mut rows: Vec<_> = rows
        .into_iter()
        .filter(|row| row.body.is_some())
        .map(|row| (row.figure, row.name, row.tolerance, more.get(&row.figure).copied().unwrap_or_default()))
        .collect();
    chance.shuffle(&mut rows);
    // What is off most is looked at first, and something that fits beside it.
    rows.sort_by_key(|(_, _, tolerance, off)| off.abs() <= *tolerance);
    let is_off = |(_, _, tolerance, off): &&(PatternMeasure, String, f64, f64)| off.abs() > *tolerance;
    let off = rows.iter().filter(is_off).count();
    let taken = match difficulty {
        Difficulty::Easy => off + 3,
        Difficulty::Middle => off.div_ceil(2) + 4,
        Difficulty::Hard => off.div_ceil(3) + 4,
    };
    // Of what is off only some was measured; the rest of the card is of what fits.
    let measured_off = match difficulty {
        Difficulty::Easy => off,
        Difficulty::Middle => off.div_ceil(2),
        Difficulty::Hard => off.div_ceil(3),
    };
    let fitting: Vec<_> = rows.split_off(off);
    rows.truncate(measured_off);
    rows.extend(fitting.into_iter().take(taken - measured_off));
    let wrong = match difficulty {
        Difficulty::Easy => 0.0,
        Difficulty::Middle => 30.0,
        Difficulty::Hard => 50.0,
    };
    let misread = chance.percent(wrong).then(|| {
        let fitting: Vec<usize> = (measured_off..rows.len()).collect();
        chance.one_of(&fitting).copied()
    });
    let misread = misread.flatten();
    if let Some(row) = misread.and_then(|at| rows.get_mut(at)) {
        let error = (2.0 + chance.between(0.0, 1.0)) * row.2;
        row.3 += if chance.percent(50.0) { error } else { -error };
    }
    let wrong = misread.and_then(|at| rows.get(at)).map(|row| row.0);
    rows.sort_by_key(|row| row.0);
    let reading = |(figure, name, _, off): &(PatternMeasure, String, f64, f64)| {
        let is = pattern.get(*figure)?;
        // As a tape gives it: to half a centimetre's tenth, and never better than a millimetre.
        let hers = (is + off).round();
        Some(PracticeReading {
            figure: *figure,
            name: name.clone(),
            hers: style.show(hers),
            pattern: style.show(is),
            off: style.difference(hers, is),
        })
    };
    let figures =
        rows.iter().map(|(figure, _, tolerance, off)| (*figure, Off { mm: *off, tolerance: *tolerance }));
    let figures = figures.collect();
    Some((rows.iter().filter_map(reading).collect(), wrong, figures))
}

/// The level lines, measured: a line rises where the pattern is too short above it.
fn levels(
    garment: Garment,
    more: &BTreeMap<PatternMeasure, f64>,
    hidden: &Hidden,
    difficulty: Difficulty,
    chance: &mut Chance,
) -> Vec<LevelOff> {
    let measured = match difficulty {
        Difficulty::Easy => 100.0,
        Difficulty::Middle => 60.0,
        Difficulty::Hard => 30.0,
    };
    if !chance.percent(measured) {
        return Vec::new();
    }
    let of = |figure| more.get(&figure).copied().unwrap_or_default();
    let is_skirt = garment == Garment::Skirt;
    let line = if is_skirt { BalanceLine::Hip } else { BalanceLine::Waist };
    let [front, back, side] = if is_skirt {
        use PatternMeasure as F;
        [
            of(F::SkirtCentreFront),
            of(F::SkirtCentreBack),
            of(F::SkirtSideFront).midpoint(of(F::SkirtSideBack)),
        ]
    } else {
        use PatternMeasure as F;
        [of(F::FrontLength), of(F::CentreBack), of(F::SideFront).midpoint(of(F::SideBack))]
    };
    let free = [front, back, side, side];
    // What hangs as the rest hangs is level: the middle of the four stations.
    let mut sorted = free;
    sorted.sort_by(f64::total_cmp);
    let rest = sorted[1].midpoint(sorted[2]);
    let one_side = |station: Station, mm: f64| match (hidden.side, station) {
        (Side::Left, Station::Right) | (Side::Right, Station::Left) => rest,
        _ => mm,
    };
    [
        (Station::CentreFront, front),
        (Station::Left, side),
        (Station::Right, side),
        (Station::CentreBack, back),
    ]
    .into_iter()
    .map(|(station, mm)| LevelOff { line: Some(line), station, mm: (one_side(station, mm) - rest).round() })
    .collect()
}

/// What a fitter would see, the plainest sign first.
fn sights(
    offs: &[Behind],
    garment: Garment,
    difficulty: Difficulty,
    chance: &mut Chance,
) -> Vec<Observation> {
    let mut all: Vec<Observation> = Vec::new();
    for (at, off) in offs.iter().enumerate() {
        let Hidden { cause, mm, side } = &off.hidden;
        let mut picture = |sign: &Sign| chance.one_of(&sign.pictures(*side)).cloned();
        let mut sure: Vec<Observation> = cause.sure.iter().filter_map(&mut picture).collect();
        let mut also: Vec<Observation> = cause.also.iter().filter_map(&mut picture).collect();
        // A second cause, and a hard one, shows itself by one sign.
        let (of_sure, of_also) = match difficulty {
            _ if at > 0 => (1, 0),
            Difficulty::Easy => (2, 2),
            Difficulty::Middle => (2, 1),
            Difficulty::Hard => (1, 1),
        };
        chance.shuffle(&mut sure);
        chance.shuffle(&mut also);
        sure.truncate(of_sure);
        also.truncate(of_also);
        // The amount is where it is read from; where no sign can hold it, readings and level lines tell it.
        for seen in sure.iter_mut().chain(&mut also) {
            if cause.hold_amount(garment, *mm, seen) {
                break;
            }
        }
        for seen in sure.into_iter().chain(also) {
            if !all.iter().any(|known| (known.kind, &known.place) == (seen.kind, &seen.place)) {
                all.push(seen);
            }
        }
    }
    // What is off by a distance says by how much.
    for seen in &mut all {
        let is_far = matches!(seen.kind, ObservationKind::Hike | ObservationKind::Place);
        if is_far && seen.how_far.is_none() {
            seen.how_far = Some(offs[0].hidden.mm.abs().clamp(4.0, 25.0));
        }
    }
    if difficulty == Difficulty::Hard
        && all.len() > 1
        && chance.percent(40.0)
        && let Some(last) = all.last_mut()
        && let Some(near) = chance.one_of(&next_door(&last.place))
        && last.towards.as_deref() != Some(near)
    {
        (*near).clone_into(&mut last.place);
    }
    all
}

/// Causes to choose from: the first one, those it is taken for, and others of such a garment.
fn candidates(
    first: &'static Cause,
    cut: &Cut,
    all: &[&'static Cause],
    chance: &mut Chance,
) -> Vec<&'static Cause> {
    const MANY: usize = 5;
    let is_of = |other: &&'static Cause| {
        other.code != first.code && other.corrected_by(cut.garment).is_some() && other.goes_with(&cut.worn)
    };
    let mut near: Vec<&'static Cause> =
        first.tells_from.iter().chain(&first.mistaken).filter_map(|code| cause(code)).filter(is_of).collect();
    chance.shuffle(&mut near);
    let mut rest: Vec<&'static Cause> = all.iter().copied().filter(is_of).collect();
    chance.shuffle(&mut rest);
    let mut found = vec![first];
    for other in near.into_iter().take(3).chain(rest) {
        if found.len() < MANY && !found.iter().any(|known| known.code == other.code) {
            found.push(other);
        }
    }
    found
}

/// What it could be that is marked first: itself, and what fitters take it for.
fn choices(seen: &Observation, chance: &mut Chance) -> Vec<Choice> {
    let plain = |seen: &Observation| {
        let plain = Observation { pinned: None, how_far: None, towards: None, ..seen.clone() };
        said(&plain, FINE)
    };
    let right = plain(seen);
    let mut others: Vec<(String, bool)> = Vec::new();
    let mut add = |other: &Observation, near: bool| {
        let says = plain(other);
        if says != right && !others.iter().any(|(known, _)| *known == says) {
            others.push((says, near));
        }
    };
    if let Some(lie) = seen.lie {
        add(&Observation { lie: Some(lie.opposite()), ..seen.clone() }, false);
    }
    for kind in taken_for(seen.kind) {
        let lie = kind.lies().first().copied();
        add(&Observation { kind, lie, ..seen.clone() }, true);
    }
    for kind in ObservationKind::ALL {
        let lie = kind.lies().first().copied();
        if kind != seen.kind {
            add(&Observation { kind, lie, ..seen.clone() }, false);
        }
    }
    others.truncate(3);
    let mut all: Vec<Choice> =
        others.into_iter().map(|(says, is_near)| Choice { says, is_right: false, is_near }).collect();
    all.push(Choice { says: right, is_right: true, is_near: false });
    chance.shuffle(&mut all);
    all
}

/// What must follow when a pattern is altered so: by the figures that change.
fn follows(more: &BTreeMap<PatternMeasure, f64>) -> Vec<Choice> {
    /// A figure that changes by less is eased in, in millimetres (common practice, no source).
    const MATTERS: f64 = 3.0;
    use PatternMeasure as F;
    let changes =
        |figures: &[F]| figures.iter().any(|figure| more.get(figure).is_some_and(|mm| mm.abs() > MATTERS));
    let follow: [(&str, &[F]); 6] = [
        ("The sleeve's cap goes to the new armhole", &[F::ArmholeFront, F::ArmholeBack, F::Armhole]),
        ("Collar or neck facing: the neckline is another", &[F::NecklineFront, F::NecklineBack, F::Neckline]),
        ("What is sewn to the waist is as long as the new waist", &[F::Waist]),
        ("The darts point at another place", &[F::BustPointDepth, F::BustSpan]),
        ("Front and back shoulder are walked again", &[F::ShoulderFront, F::ShoulderBack]),
        (
            "Side seams are walked and the hem is trued",
            &[F::SideFront, F::SideBack, F::SkirtSideFront, F::SkirtSideBack, F::Hip, F::Hem],
        ),
    ];
    let choice = |(says, figures): (&str, &[F])| Choice {
        says: says.to_owned(),
        is_right: changes(figures),
        is_near: false,
    };
    follow.into_iter().map(choice).collect()
}

/// An observation in words.
pub(super) fn said(seen: &Observation, style: Style) -> String {
    let towards = seen.towards.as_ref().map_or_else(String::new, |place| format!(", towards {place}"));
    let side = match seen.side {
        Side::Both => "",
        Side::Left => ", on her left",
        Side::Right => ", on her right",
    };
    let posture = seen.in_posture().map_or_else(String::new, |posture| format!(", {}", posture.name()));
    let goes = seen.goes_when.map_or_else(String::new, |posture| format!(", gone {}", posture.name()));
    let far = seen.how_far.map_or_else(String::new, |mm| format!(", by {}", style.with_unit(mm)));
    let pinned =
        seen.pinned.map_or_else(String::new, |pinned| format!(", {} tucked", style.with_unit(pinned.depth)));
    let (kind, lie) = match (seen.kind, seen.lie) {
        (ObservationKind::Hike, Some(Lie::Up)) => ("Hike", String::new()),
        (ObservationKind::Hike, Some(Lie::Down)) => ("Drop", String::new()),
        (ObservationKind::Place | ObservationKind::Point, Some(lie)) => {
            let way = match lie {
                Lie::In => "inwards",
                Lie::Out => "outwards",
                other => other.name(),
            };
            (seen.kind.name(), format!(", {way},"))
        }
        (kind, Some(lie)) => (kind.name(), format!(" {}", lie.name())),
        (kind, None) => (kind.name(), String::new()),
    };
    format!("{kind}{lie} at {}{towards}{side}{posture}{goes}{far}{pinned}", seen.place)
}
