//! What touches what: measured on the pattern before and after, so that nothing is skipped.
//!
//! The table of the handbook (`alterations.md`, section 3), read off the figures: an armhole that became longer
//! or shorter asks for the sleeve's cap, a neckline for its facing and collar, a waist for the skirt. Where
//! the piece is in this pattern it is done or offered; where it is not, a reminder is written.

use super::told::FollowUp;
use super::{Alteration, Altered, Amounts, sleeve};
use crate::Style;
use crate::pattern::{Figure, Figures, Pattern, Seam, measure};

/// Changes under this are not worth a word, in millimetres.
const WORTH_A_WORD: f64 = 1.0;
/// Above this change of the armhole a cap that still eases in is offered to be altered, in millimetres.
const CAP_OFFERED_ABOVE: f64 = 6.0;

/// The alteration with what follows from it.
pub(super) fn followed(
    alteration: &dyn Alteration,
    before: &Pattern,
    mut altered: Altered,
    style: Style,
) -> Altered {
    let (was, now) = (measure(before), measure(&altered.pattern));
    let change = |figure| by(&was, &now, figure);
    if before.sleeve().is_some() {
        cap(alteration, before, &mut altered, style);
    } else if let Some(says) = armhole_words(&was, &now, style) {
        altered.follow_ups.push(FollowUp::reminder(format!("{says}: the cap of a sleeve follows.")));
    }
    let neckline = change(Figure::NecklineFront) + change(Figure::NecklineBack);
    if neckline.abs() > WORTH_A_WORD {
        let says = format!(
            "The neckline is {} on each half: facing, collar or hood follow.",
            longer(neckline, style)
        );
        altered.follow_ups.push(FollowUp::reminder(says));
    }
    if change(Figure::Waist).abs() > WORTH_A_WORD
        && before.front().is_some_and(|p| p.last_edge(Seam::Hem).is_none())
    {
        let says = format!(
            "The waist is {} all round: skirt, band or peplum follow.",
            wider(change(Figure::Waist), style)
        );
        altered.follow_ups.push(FollowUp::reminder(says));
    }
    let on_fold = |pattern: &Pattern| {
        pattern.back().is_some_and(|back| back.edges_of(Seam::CentreBack).any(|edge| edge.fold))
    };
    if on_fold(before) && !on_fold(&altered.pattern) {
        altered.follow_ups.push(FollowUp::reminder(
            "The centre back is a seam now: cut two, with 12.7 to 15.9 mm of allowance on it so that it lies flat; the \
             facing is divided there too.",
        ));
    }
    altered
}

fn by(was: &Figures, now: &Figures, figure: Figure) -> f64 {
    was.get(figure).zip(now.get(figure)).map_or(0.0, |(was, now)| now - was)
}

fn longer(mm: f64, style: Style) -> String {
    format!("{} {}", style.with_unit(mm.abs()), if mm > 0.0 { "longer" } else { "shorter" })
}

fn wider(mm: f64, style: Style) -> String {
    format!("{} {}", style.with_unit(mm.abs()), if mm > 0.0 { "wider" } else { "narrower" })
}

fn armhole_words(was: &Figures, now: &Figures, style: Style) -> Option<String> {
    let told = |figure, name: &str| {
        let mm = by(was, now, figure);
        (mm.abs() > WORTH_A_WORD).then(|| format!("{name} is {}", longer(mm, style)))
    };
    let halves: Vec<String> =
        [told(Figure::ArmholeFront, "the front armhole"), told(Figure::ArmholeBack, "the back armhole")]
            .into_iter()
            .flatten()
            .collect();
    (!halves.is_empty()).then(|| capitalised(&halves.join(", ")))
}

fn capitalised(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| format!("{}{}", first.to_uppercase(), chars.as_str()))
}

/// The cap after the armhole: altered by what is over where the sleeve's rule is broken, or offered.
fn cap(alteration: &dyn Alteration, before: &Pattern, altered: &mut Altered, style: Style) {
    let (was, now) = (measure(before), measure(&altered.pattern));
    for (half, figure, name) in
        [("front", Figure::ArmholeFront, "front"), ("back", Figure::ArmholeBack, "back")]
    {
        let change = by(&was, &now, figure);
        let Some(over) = sleeve::over(&altered.pattern, half == "front") else { continue };
        if change.abs() <= WORTH_A_WORD && over == 0.0 {
            continue;
        }
        let was_over = sleeve::over(before, half == "front").unwrap_or_default();
        let amounts = |mm: f64| Amounts::of(mm).by("half", half);
        let told = format!("The {name} armhole is {}", longer(change, style));
        // What was off before is not this alteration's: it is left for a step of its own.
        if over != 0.0 && was_over == 0.0 && alteration.takes_the_cap_along() {
            if let Some(pattern) = sleeve::with_half_longer(&altered.pattern, half == "front", -over) {
                altered.pattern = pattern;
                altered.follow_ups.push(FollowUp::done(format!(
                    "{told}: the {name} of the cap was made {} with it.",
                    longer(-over, style)
                )));
            }
        } else if over != 0.0 || change.abs() > CAP_OFFERED_ABOVE {
            let by = if over == 0.0 { change } else { -over };
            altered.follow_ups.push(FollowUp::offered(
                format!("{told}: the {name} of the cap would be {}.", longer(by, style)),
                "half_cap",
                amounts(by),
            ));
        }
    }
}
