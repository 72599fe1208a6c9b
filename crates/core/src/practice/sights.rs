//! What is seen of what is behind an exercise, in words, and the answers to choose from.

use super::chance::Chance;
use super::exercise::Rules;
use super::hidden::{Behind, Differs, Hidden};
use crate::Style;
use crate::fitting::{Observation, ObservationKind, Sign, next_door, taken_for};
use crate::pattern::{Garment, PatternMeasure};

/// One answer that can be given.
pub(super) struct Choice {
    pub(super) says: String,
    pub(super) is_right: bool,
    pub(super) is_near: bool,
}

/// What a fitter would see, the plainest sign first.
pub(super) fn sights(
    offs: &[Behind],
    garment: Garment,
    rules: &Rules,
    chance: &mut Chance,
) -> Vec<Observation> {
    let mut all: Vec<Observation> = Vec::new();
    for (at, off) in offs.iter().enumerate() {
        let Hidden { cause, mm, side } = &off.hidden;
        let mut picture = |sign: &Sign| chance.one_of(&sign.pictures(*side)).cloned();
        let mut sure: Vec<Observation> = cause.sure.iter().filter_map(&mut picture).collect();
        let mut also: Vec<Observation> = cause.also.iter().filter_map(&mut picture).collect();
        // A second cause shows itself by one sign.
        let (of_sure, of_also) = if at > 0 { (1, 0) } else { rules.signs };
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
    if all.len() > 1
        && chance.percent(rules.next_door)
        && let Some(last) = all.last_mut()
        && let Some(near) = chance.one_of(&next_door(&last.place))
        && last.towards.as_deref() != Some(near)
    {
        (*near).clone_into(&mut last.place);
    }
    all
}

/// What it could be that is marked first: itself, and what fitters take it for.
pub(super) fn choices(seen: &Observation, chance: &mut Chance) -> Vec<Choice> {
    let plain = |seen: &Observation| Observation { towards: None, ..seen.clone() }.said();
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
pub(super) fn follows(differs: &Differs) -> Vec<Choice> {
    /// A figure that changes by less is eased in, in millimetres (common practice, no source).
    const MATTERS: f64 = 3.0;
    use PatternMeasure as F;
    let changes = |figures: &[F]| figures.iter().any(|figure| differs.of(*figure).abs() > MATTERS);
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

/// An observation in words, with what was measured of it.
pub(super) fn said(seen: &Observation, style: Style) -> String {
    let far = seen.how_far.map(|mm| format!(", by {}", style.with_unit(mm)));
    let pinned = seen.pinned.map(|pinned| format!(", {} tucked", style.with_unit(pinned.depth)));
    seen.said() + &far.unwrap_or_default() + &pinned.unwrap_or_default()
}
