//! Cautions that a profile shows: what to think of before the tape, the corset or the shears.

use super::{Profile, measurement};

/// A waist drawn in by more than this share asks for confirmation (handbook: the job, cautions).
pub(super) const DRAWN_IN: f64 = 0.10;

/// Where a client's consent stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Consent {
    /// None is written down.
    Missing,
    /// The day to ask again has come.
    ReviewDue,
    /// It stands.
    Given,
}

/// What to mind with this client, a sentence each.
pub fn cautions(profile: &Profile, consent: Consent, changing: bool) -> Vec<String> {
    let mut found = Vec::new();
    match consent {
        Consent::Missing => found
            .push("No consent is written down: ask before measuring, and note date and purpose.".to_owned()),
        Consent::ReviewDue => found.push("The consent is due for review: ask her again.".to_owned()),
        Consent::Given => {}
    }
    let figure = |code: &str| profile.get(code).and_then(|figure| figure.mm);
    match (figure("waist_girth_drawn_in"), figure("waist_girth")) {
        (Some(_), None) => found.push("A drawn-in waist is written down without the natural one: measure that too.".to_owned()),
        (Some(drawn), Some(natural)) if drawn < natural * (1.0 - DRAWN_IN) => found.push(format!(
            "Drawn in by {:.0} in 100: comfort and breathing come first. Not in pregnancy or with heart, lung, spine or reflux \
             trouble; her doctor decides.",
            (1.0 - drawn / natural) * 100.0
        )),
        _ => {}
    }
    if changing {
        found.push(
            "Her figure is changing: her readings count as old after a third of the usual time.".to_owned(),
        );
    }
    let asked = profile
        .0
        .iter()
        .filter(|figure| figure.asked.is_some())
        .filter_map(|figure| measurement(&figure.code));
    let asked: Vec<_> = asked.map(|row| row.name.to_lowercase()).collect();
    if !asked.is_empty() {
        found.push(format!("To be taken again the usual way: {}.", asked.join(", ")));
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::body::{FINGER, LatestReading, Side, Taken};

    fn profile(figures: &[(&str, f64)]) -> Profile {
        let of = |(code, mm): &(&str, f64)| LatestReading {
            code: (*code).to_owned(),
            side: Side::Both,
            mm: *mm,
            taken: Taken::default(),
            days_ago: 1,
            takes: 1,
            error_mm: None,
        };
        Profile::of(&figures.iter().map(of).collect::<Vec<_>>(), FINGER)
    }

    #[test]
    fn a_tightly_drawn_waist_defers_to_the_doctor() {
        let corset = profile(&[("waist_girth", 700.0), ("waist_girth_drawn_in", 620.0)]);
        let found = cautions(&corset, Consent::Given, false);
        assert!(
            found.len() == 1 && found[0].contains("11 in 100") && found[0].contains("doctor"),
            "{found:?}"
        );
        let mild = profile(&[("waist_girth", 700.0), ("waist_girth_drawn_in", 640.0)]);
        assert!(cautions(&mild, Consent::Given, false).is_empty());
        let alone = profile(&[("waist_girth_drawn_in", 640.0)]);
        assert!(cautions(&alone, Consent::Given, false)[0].contains("natural"));
    }

    #[test]
    fn consent_and_change_are_said() {
        let none = Profile::default();
        assert_eq!(cautions(&none, Consent::Given, false), Vec::<String>::new());
        assert!(cautions(&none, Consent::Missing, false)[0].contains("ask before measuring"));
        assert_eq!(cautions(&none, Consent::ReviewDue, true).len(), 2);
    }
}
