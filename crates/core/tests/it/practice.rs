//! The practice room: five hundred exercises of each difficulty, each by its number the same again, solvable by what is shown,
//! and no two alike.

use std::collections::{BTreeMap, BTreeSet};

use yardwand_core::Style;
use yardwand_core::fitting::weigh;
use yardwand_core::practice::{
    Difficulty, Exercise, PracticeAnswers, PracticeGrade, TapeAnswer, TapeKind, exercise, judge, judge_tape,
    practised_causes, tape_exercise,
};

const STYLE: Style = Style::TENTHS;
const SEEDS: u64 = 500;

/// The place of the hidden cause in what the weigher makes of what is shown: 0 is first.
fn found_at(made: &Exercise) -> Option<usize> {
    let causes = made.causes();
    weigh(&made.evidence, STYLE).offered.iter().position(|offered| causes.contains(&offered.cause.as_str()))
}

#[test]
fn five_hundred_of_each_are_solvable_by_what_is_shown() {
    for difficulty in Difficulty::ALL {
        let (mut made_of, mut first, mut among_two) = (0, 0, 0);
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
            if at.is_none_or(|at| at > 1) {
                *missed.entry(format!("{:?} {:?}", made.causes(), at)).or_default() += 1;
            }
        }
        eprintln!(
            "{difficulty:?}: {made_of} of {SEEDS} made, {first} first, {among_two} among two; none of {without:?}"
        );
        for (cause, count) in &missed {
            eprintln!("  {count} {cause}");
        }
        assert!(among_two * 100 >= made_of * 95, "{among_two} of {made_of}");
    }
}
