//! The practice room: five hundred exercises of each difficulty, each by its number the same again, solvable by what is shown,
//! and no two alike; every step judged, and every tape.

use std::collections::{BTreeMap, BTreeSet};

use yardwand_core::fitting::{Station, cause, weigh};
use yardwand_core::pattern::PatternMeasure;
use yardwand_core::practice::{
    Difficulty, Exercise, Mistake, PracticeAnswers, PracticeGrade, TapeAnswer, TapeKind, exercise, judge,
    judge_tape, practised_causes, tape_exercise,
};
use yardwand_core::{Length, Style, Unit};

const STYLE: Style = Style::TENTHS;
const SEEDS: u64 = 500;

/// The place of a hidden cause in what the weigher makes of what is shown: 0 is first.
fn found_at(made: &Exercise) -> Option<usize> {
    let causes = made.causes();
    weigh(&made.evidence, STYLE).offered.iter().position(|offered| causes.contains(&offered.cause.as_str()))
}

#[test]
fn five_hundred_of_each_are_solvable_by_what_is_shown_and_no_two_are_alike() {
    let mut pictures = BTreeSet::new();
    for difficulty in Difficulty::ALL {
        let (mut made_of, mut first, mut among_two, mut asked, mut two_causes, mut misread) =
            (0, 0, 0, 0, 0, 0);
        let mut missed: BTreeMap<String, usize> = BTreeMap::new();
        let mut without = BTreeSet::new();
        for seed in 0..SEEDS {
            let Some(made) = exercise(seed, difficulty, STYLE) else {
                let all = practised_causes();
                without.insert(all[(seed % all.len() as u64) as usize].code.clone());
                continue;
            };
            made_of += 1;
            let at = found_at(&made);
            first += usize::from(at == Some(0));
            among_two += usize::from(at.is_some_and(|at| at < 2));
            asked += usize::from(made.shown.amount.is_some());
            two_causes += usize::from(made.causes().len() > 1);
            misread +=
                usize::from(made.evidence.figures.len() < made.shown.readings.len() || is_misread(&made));
            if at.is_none_or(|at| at > 1) {
                *missed.entry(format!("{:?} {at:?}", made.causes())).or_default() += 1;
            }
            // What a learner sees: the figure, its marks, the card. The number is no part of it.
            let shown =
                (&made.shown.figure, &made.shown.readings, &made.shown.seen, made.evidence.figures.len());
            assert!(pictures.insert(format!("{shown:?}")), "{difficulty:?} {seed} was there before");
        }
        eprintln!(
            "{difficulty:?}: {made_of} of {SEEDS} made, {first} first, {among_two} among two, {asked} ask for an amount, {two_causes} of two causes, \
             {misread} with a reading that is wrong; none of {without:?}"
        );
        missed.iter().for_each(|(cause, count)| eprintln!("  {count} {cause}"));
        assert!(made_of * 100 >= SEEDS as usize * 97, "{made_of} of {SEEDS}: {without:?}");
        assert!(among_two * 100 >= made_of * 95, "{among_two} of {made_of}");
        // What is shown tells the amount of most: the rest ask for none.
        assert!(asked * 10 >= made_of * 6, "{asked} of {made_of}");
        let wants = |count: usize, wanted: bool| assert_eq!(count > 20, wanted, "{difficulty:?}: {count}");
        wants(two_causes, difficulty == Difficulty::Hard);
        wants(misread, difficulty != Difficulty::Easy);
    }
}

fn is_misread(made: &Exercise) -> bool {
    told(made, &right(made)).misread.is_some()
}

/// The truth of an exercise that was answered so.
fn told(made: &Exercise, answers: &PracticeAnswers) -> yardwand_core::practice::PracticeTruth {
    judge(made, answers, STYLE).truth.expect("every step is answered")
}

/// The answer that is right, step by step, found by trying.
fn right(made: &Exercise) -> PracticeAnswers {
    let grade_of =
        |answers: &PracticeAnswers, of: &dyn Fn(&PracticeAnswers) -> Option<PracticeGrade>| of(answers);
    let best = |count: usize,
                set: &dyn Fn(usize) -> PracticeAnswers,
                of: &dyn Fn(&PracticeAnswers) -> Option<PracticeGrade>| {
        (0..count).find(|at| grade_of(&set(*at), of) == Some(PracticeGrade::Right))
    };
    let judged = |answers: &PracticeAnswers| judge(made, answers, STYLE);
    let sight = best(
        made.shown.sights.len(),
        &|at| PracticeAnswers { sight: Some(at), ..Default::default() },
        &|answers| judged(answers).sight.map(|step| step.grade),
    );
    let test = best(
        made.shown.tests.len(),
        &|at| PracticeAnswers { test: Some(at), ..Default::default() },
        &|answers| judged(answers).test.map(|step| step.grade),
    );
    let cause = best(
        made.shown.causes.len(),
        &|at| PracticeAnswers { cause: Some(at), ..Default::default() },
        &|answers| judged(answers).cause.map(|step| step.grade),
    );
    let amount = (-60..=60).map(f64::from).find(|mm| {
        let answers = PracticeAnswers { amount: Some(*mm), ..Default::default() };
        judged(&answers).amount.map(|step| step.grade) == Some(PracticeGrade::Right)
    });
    let follows = (0_u32..1 << made.shown.follows.len())
        .map(|bits| (0..made.shown.follows.len()).filter(|at| bits >> at & 1 == 1).collect::<Vec<_>>())
        .find(|chosen| {
            let answers = PracticeAnswers { follows: Some(chosen.clone()), ..Default::default() };
            judged(&answers).follows.map(|step| step.grade) == Some(PracticeGrade::Right)
        });
    PracticeAnswers { sight, test, cause, amount, follows }
}

#[test]
fn every_step_has_its_right_answer_and_the_truth_comes_with_the_last() {
    for seed in 0..practised_causes().len() as u64 {
        let Some(made) = exercise(seed, Difficulty::Middle, STYLE) else { continue };
        let answers = right(&made);
        let causes = made.causes();
        let verdict = judge(&made, &answers, STYLE);
        assert_eq!((verdict.score, &verdict.mistakes), (1.0, &vec![]), "{causes:?}: {answers:?}");
        let truth = verdict.truth.unwrap();
        assert!(truth.causes[0].starts_with(&cause(causes[0]).unwrap().title), "{truth:?}");
        assert!(truth.against_yours.is_empty(), "{truth:?}");
        // One step is wanting: nothing of what is behind it is told, whatever was answered.
        let wanting = PracticeAnswers { follows: None, ..answers.clone() };
        assert_eq!(judge(&made, &wanting, STYLE).truth, None);
        // Another cause is a mistake of that kind, and it is said what speaks against it.
        let other = (0..made.shown.causes.len()).find(|at| Some(*at) != answers.cause).unwrap();
        let verdict = judge(&made, &PracticeAnswers { cause: Some(other), ..answers.clone() }, STYLE);
        assert_eq!(verdict.mistakes, [Mistake::Cause], "{causes:?}");
        assert!(verdict.score < 1.0 && !verdict.truth.unwrap().against_yours.is_empty());
        // The other way is another mistake than too much.
        if let Some(mm) = answers.amount {
            let told =
                |mm| judge(&made, &PracticeAnswers { amount: Some(mm), ..answers.clone() }, STYLE).mistakes;
            assert_eq!(told(-mm), [Mistake::Way], "{causes:?}");
            assert_eq!(told(mm * 6.0), [Mistake::Amount], "{causes:?}");
        }
        // An answer that is in no list is none.
        assert_eq!(
            judge(&made, &PracticeAnswers { sight: Some(99), ..Default::default() }, STYLE).sight,
            None
        );
    }
}

/// A rounded back by hand: so much of it lengthens the centre back and lifts the waist line there by as much, and nothing at
/// the side.
#[test]
fn what_is_shown_is_the_difference_that_the_alteration_makes() {
    let at = practised_causes().iter().position(|cause| cause.code == "rounded_back").unwrap() as u64;
    let made = exercise(at, Difficulty::Easy, STYLE).unwrap();
    let again = exercise(at, Difficulty::Easy, STYLE).unwrap();
    assert_eq!(made.shown, again.shown, "the same number is the same exercise");
    let off = made.evidence.figures[&PatternMeasure::CentreBack].mm;
    let behind = made.evidence.level.iter().find(|level| level.station.name() == "centre back").unwrap().mm;
    let sides = made
        .evidence
        .level
        .iter()
        .filter(|level| matches!(level.station, Station::Left | Station::Right))
        .map(|level| level.mm);
    assert!(off > 5.0 && (behind - off).abs() < 1.5, "{off} and {behind}");
    assert!(sides.clone().count() == 2 && sides.into_iter().all(|mm| mm == 0.0), "{:?}", made.evidence.level);
    assert!(judge(&made, &right(&made), STYLE).truth.unwrap().causes[0].starts_with("Rounded back"));
}

/// A cause of one side is seen, measured and hangs off on that side alone; her figures, measured over both, are half of it.
#[test]
fn what_is_on_one_side_is_shown_on_that_side() {
    let at = practised_causes().iter().position(|cause| cause.code == "low_shoulder").unwrap() as u64;
    let sides = (0..12).map(|times| {
        let made = exercise(at + times * practised_causes().len() as u64, Difficulty::Easy, STYLE).unwrap();
        let sides: BTreeSet<String> =
            made.evidence.seen.iter().map(|seen| format!("{:?}", seen.side)).collect();
        assert_eq!(sides.len(), 1, "{:?}", made.evidence.seen);
        let mm = (-60..=60).map(f64::from).find(|mm| {
            let answers = PracticeAnswers { amount: Some(*mm), ..Default::default() };
            judge(&made, &answers, STYLE).amount.unwrap().grade == PracticeGrade::Right
        });
        let drop = made.evidence.figures.get(&PatternMeasure::ShoulderDrop).map(|off| off.mm);
        // The least that is right is at most a quarter, or 3 mm, under it.
        assert!(drop.is_none_or(|drop| drop < mm.unwrap() * 1.4 / 2.0 + 3.0), "{drop:?} of {mm:?}");
        sides.into_iter().next().unwrap()
    });
    let sides: BTreeSet<String> = sides.collect();
    assert_eq!(sides.into_iter().collect::<Vec<_>>(), ["Left", "Right"], "on either side");
}

/// A tape as an outside reader reads it: between the two numbered marks beside the pin, in their own distance.
#[test]
fn a_tape_reads_what_its_marks_say() {
    for style in [Style::EIGHTHS, Style::TENTHS] {
        for (seed, difficulty) in
            (0..200).flat_map(|seed| Difficulty::ALL.map(|difficulty| (seed, difficulty)))
        {
            let shown = tape_exercise(seed, TapeKind::Reading, difficulty, style).unwrap();
            let tape = shown.tape.unwrap();
            let numbered: Vec<(f64, f64)> = tape
                .marks
                .iter()
                .filter_map(|mark| Some((mark.x, mark.number.as_ref()?.parse().ok()?)))
                .collect();
            let (one, other) = (numbered[0], numbered[1]);
            let read = one.1 + (tape.at - one.0) * (other.1 - one.1) / (other.0 - one.0);
            let mm = match style.unit() {
                Unit::Inch => Length::from_inches(read).mm(),
                Unit::Cm | Unit::Mm => read * 10.0,
            };
            let told =
                |mm| judge_tape(seed, TapeKind::Reading, difficulty, TapeAnswer::Reads(mm), style).unwrap();
            let verdict = told(mm);
            assert_eq!(
                verdict.verdict.grade,
                PracticeGrade::Right,
                "{seed} {difficulty:?}: {read}: {verdict:?}"
            );
            assert!(
                tape.marks.iter().any(|mark| (mark.x - tape.at).abs() < 1e-6),
                "the pin stands on a mark"
            );
            assert_eq!(told(mm + style.step().mm()).verdict.grade, PracticeGrade::Near);
            assert_eq!(told(mm + 3.0 * style.step().mm()).mistakes, [Mistake::TapeReading]);
        }
    }
}

/// Found by what a body can be, and by where the catalogue has the tape: without looking at what is behind it.
#[test]
fn the_odd_one_is_the_only_odd_one() {
    use yardwand_core::body::{Body, catalogue, draw_tape};
    for (seed, difficulty) in (0..200).flat_map(|seed| Difficulty::ALL.map(|difficulty| (seed, difficulty))) {
        let right = |kind: TapeKind, count: usize, style: Style| -> Vec<usize> {
            (0..count)
                .filter(|at| {
                    let verdict = judge_tape(seed, kind, difficulty, TapeAnswer::Which(*at), style).unwrap();
                    verdict.verdict.grade == PracticeGrade::Right
                })
                .collect()
        };
        let shown = tape_exercise(seed, TapeKind::Place, difficulty, STYLE).unwrap();
        let row = |name: &str| catalogue().iter().find(|row| row.name == name).unwrap();
        // A tape that lies right touches the landmarks that the catalogue names.
        let lies_right = |placed: &yardwand_core::practice::PlacedTape| {
            draw_tape(&row(&placed.name).tape, &Body::middle())
                .is_some_and(|line| line.names == placed.line.names)
        };
        let odd: Vec<usize> = { shown.placed.iter().enumerate() }
            .filter(|(_, each)| !lies_right(each))
            .map(|(at, _)| at)
            .collect();
        assert_eq!(odd, right(TapeKind::Place, shown.placed.len(), STYLE), "{seed} {difficulty:?}");
        for style in [Style::EIGHTHS, Style::TENTHS] {
            let shown = tape_exercise(seed, TapeKind::UnitSlip, difficulty, style).unwrap();
            // What no tape is long enough for cannot be either.
            let cannot_be = |written: &yardwand_core::practice::WrittenFigure| {
                let row = row(&written.name);
                let fits = |mm: f64| mm >= row.low - 15.0 && mm <= row.high + 15.0;
                Length::read(&written.written, style.unit()).map_or(true, |read| !fits(read.length.mm()))
            };
            let odd: Vec<usize> = { shown.column.iter().enumerate() }
                .filter(|(_, each)| cannot_be(each))
                .map(|(at, _)| at)
                .collect();
            let right = right(TapeKind::UnitSlip, shown.column.len(), style);
            assert!(right.len() == 1 && odd.iter().all(|at| right.contains(at)), "{seed}: {odd:?} {right:?}");
        }
    }
    assert_eq!(judge_tape(1, TapeKind::Place, Difficulty::Easy, TapeAnswer::Reads(900.0), STYLE), None);
}
