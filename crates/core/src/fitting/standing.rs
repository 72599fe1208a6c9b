//! Where a garment stands on the wand, and what it waits for.

use serde::{Deserialize, Serialize};

/// The large marks of the wand.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum GarmentStage {
    /// The tape.
    Measure,
    /// Client against block.
    Compare,
    /// The cutting table.
    Alter,
    /// Muslin.
    Toile,
    /// The fitting room.
    Fit,
    /// The cloth.
    Cut,
    /// Handed over.
    Done,
}

/// What is known of a garment.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Facts {
    /// Readings the method needs.
    pub wanted: u32,
    /// Readings still missing.
    pub missing: u32,
    /// A pattern was begun.
    pub has_pattern: bool,
    /// Number of the newest version, 0 for none.
    pub version: u32,
    /// Number of the newest round, 0 for none.
    pub round: u32,
    /// The version on the body in that round.
    pub round_version: u32,
    /// That round is still open.
    pub round_open: bool,
    /// Observations not decided in that round.
    pub undecided: u32,
    /// Observations still open after that round.
    pub still_open: u32,
    /// Handed over.
    pub finished: bool,
}

/// Where it stands and what it waits for.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Standing {
    /// The mark on the wand.
    pub stage: GarmentStage,
    /// What it waits for, in a sentence.
    pub waits_for: String,
}

/// Reads the standing off the facts.
pub fn standing(facts: &Facts) -> Standing {
    let at = |stage, waits_for: String| Standing { stage, waits_for };
    if facts.finished {
        return at(GarmentStage::Done, "Handed over.".to_owned());
    }
    if !facts.has_pattern {
        return match facts.missing {
            0 => at(GarmentStage::Compare, "Measured: compare her with a block.".to_owned()),
            missing => {
                at(GarmentStage::Measure, format!("{missing} of {} readings still to take.", facts.wanted))
            }
        };
    }
    if facts.version == 0 {
        return at(GarmentStage::Alter, "The pattern is in hand: alter it and save a version.".to_owned());
    }
    if facts.round_open {
        let waits = match facts.undecided {
            0 => format!("Round {}: close it when everything is seen.", facts.round),
            1 => format!("Round {}: one observation to decide.", facts.round),
            n => format!("Round {}: {n} observations to decide.", facts.round),
        };
        return at(GarmentStage::Fit, waits);
    }
    let next = facts.round + 1;
    if facts.round > 0 && facts.round_version == facts.version && facts.still_open > 0 {
        // She wears this very version already: nothing new is cut.
        let seen = if facts.still_open == 1 {
            "one thing is".to_owned()
        } else {
            format!("{} things are", facts.still_open)
        };
        return at(
            GarmentStage::Toile,
            format!(
                "Version {} is cut, {seen} still open: fit it again in round {next}, or alter it.",
                facts.version
            ),
        );
    }
    if facts.round == 0 || facts.round_version < facts.version {
        return at(
            GarmentStage::Toile,
            format!("Cut the toile of version {} and fit round {next}.", facts.version),
        );
    }
    at(GarmentStage::Cut, format!("Nothing left to pin: cut the cloth from version {}.", facts.version))
}

#[cfg(test)]
mod tests {
    use super::*;

    const MEASURED: Facts = Facts {
        wanted: 16,
        missing: 0,
        has_pattern: false,
        version: 0,
        round: 0,
        round_version: 0,
        round_open: false,
        undecided: 0,
        still_open: 0,
        finished: false,
    };

    #[test]
    fn a_garment_walks_up_the_wand() {
        let stage = |facts: Facts| standing(&facts).stage;
        assert_eq!(stage(Facts { missing: 7, ..MEASURED }), GarmentStage::Measure);
        assert_eq!(stage(MEASURED), GarmentStage::Compare);
        let pattern = Facts { has_pattern: true, ..MEASURED };
        assert_eq!(stage(pattern), GarmentStage::Alter);
        let cut = Facts { version: 1, ..pattern };
        assert_eq!(stage(cut), GarmentStage::Toile);
        let fitting = Facts { round: 1, round_version: 1, round_open: true, undecided: 2, ..cut };
        assert_eq!(stage(fitting), GarmentStage::Fit);
        let closed = Facts { round_open: false, version: 2, ..fitting };
        assert_eq!(stage(closed), GarmentStage::Toile, "round 1 made version 2: another toile");
        let watched = Facts { version: 1, still_open: 2, ..closed };
        assert_eq!(
            standing(&watched).waits_for,
            "Version 1 is cut, 2 things are still open: fit it again in round 2, or alter it."
        );
        let clean = Facts { round: 2, round_version: 2, ..closed };
        assert_eq!(stage(clean), GarmentStage::Cut);
        assert_eq!(stage(Facts { finished: true, ..clean }), GarmentStage::Done);
    }

    #[test]
    fn it_says_how_many_readings_are_missing() {
        assert_eq!(standing(&Facts { missing: 7, ..MEASURED }).waits_for, "7 of 16 readings still to take.");
    }
}
