//! What pins make of plans: over all garments, how much of an alteration it took in the end for what was planned.

use serde::{Deserialize, Serialize};

use crate::alter::{Amounts, Decided, Step, alteration};

/// Fewer garments than this teach nothing yet (ours).
const FEWEST: usize = 5;
/// A factor this near to 1 is the tape's own (ours).
const NEAR: f64 = 0.08;
/// Planned amounts below this, in millimetres, say nothing of a ratio.
const SMALLEST: f64 = 3.0;

/// One alteration of one garment: what was planned before the first toile, and what it ended at.
#[derive(Clone, Debug, PartialEq)]
pub struct PlannedAndPinned {
    /// Code of the alteration.
    pub alteration: String,
    /// Who cut.
    pub cutter: String,
    /// Who measured.
    pub measurer: String,
    /// Planned, in millimetres as the alteration measures it.
    pub planned: f64,
    /// In the version nothing was left to pin on.
    pub ended: f64,
}

/// Over whom it is taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CalibratedBy {
    /// The whole house.
    House,
    /// One cutter.
    Cutter,
    /// One measurer.
    Measurer,
}

/// What the house has learnt of an alteration.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Calibration {
    /// Code of the alteration.
    pub alteration: String,
    /// Over whom.
    pub by: CalibratedBy,
    /// The cutter's or measurer's name; empty for the house.
    pub who: String,
    /// What it ends at for 1 planned: the median over the garments.
    pub factor: f64,
    /// The middle half of the garments lies between these.
    pub low: f64,
    /// See `low`.
    pub high: f64,
    /// How many garments.
    pub count: usize,
    /// Whether it is worth a correction: enough garments, and all of the middle half on the same side of 1.
    pub offered: bool,
}

impl Calibration {
    /// What brings a step to where such steps end in this house: more of the same, with its reason. None where nothing is
    /// offered for it, or it has been corrected so before.
    pub fn correction_of(&self, step: &Step) -> Option<Decided> {
        let is_corrected = step.more.iter().any(|more| more.house_factor.is_some());
        let total = step.total().amount();
        if self.by != CalibratedBy::House
            || !self.offered
            || self.alteration != step.alteration
            || is_corrected
            || total == 0.0
        {
            return None;
        }
        let known = alteration(&step.alteration)?;
        let Amounts(mut amounts) = step.amounts.clone();
        // The ways and places of the step, and of its lengths only the amount.
        amounts.retain(|code, _| known.params().iter().all(|param| param.code != code || !param.is_added()));
        Some(Decided {
            side: step.side,
            house_factor: Some(self.factor),
            ..Decided::new(
                &step.alteration,
                Amounts(amounts).with("amount", total * (self.factor - 1.0)),
                &format!("House correction × {:.2} (n = {}).", self.factor, self.count),
            )
        })
    }
}

/// What all garments together teach: by alteration for the house, then by cutter and by measurer.
pub fn calibrate(all: &[PlannedAndPinned]) -> Vec<Calibration> {
    let mut groups: Vec<(CalibratedBy, &str, &str, Vec<f64>)> = Vec::new();
    for one in all.iter().filter(|one| one.planned.abs() >= SMALLEST) {
        let ratio = one.ended / one.planned;
        let keys = [
            (CalibratedBy::House, ""),
            (CalibratedBy::Cutter, one.cutter.as_str()),
            (CalibratedBy::Measurer, one.measurer.as_str()),
        ];
        for (by, who) in keys {
            let known = groups.iter_mut().find(|g| g.0 == by && g.1 == one.alteration && g.2 == who);
            match known {
                Some(group) => group.3.push(ratio),
                None => groups.push((by, &one.alteration, who, vec![ratio])),
            }
        }
    }
    let mut learnt: Vec<Calibration> = groups
        .into_iter()
        .map(|(by, alteration, who, mut ratios)| {
            ratios.sort_by(f64::total_cmp);
            let (low, factor, high) =
                (quantile(&ratios, 0.25), quantile(&ratios, 0.5), quantile(&ratios, 0.75));
            let one_way = low > 1.0 || high < 1.0;
            Calibration {
                alteration: alteration.to_owned(),
                by,
                who: who.to_owned(),
                factor,
                low,
                high,
                count: ratios.len(),
                offered: ratios.len() >= FEWEST && one_way && (factor - 1.0).abs() > NEAR,
            }
        })
        .collect();
    learnt.sort_by(|a, b| (a.by as u8, &a.alteration, &a.who).cmp(&(b.by as u8, &b.alteration, &b.who)));
    learnt
}

/// A quantile of sorted values, between its neighbours.
fn quantile(sorted: &[f64], share: f64) -> f64 {
    let at = share * (sorted.len() - 1) as f64;
    let (low, high) = (at.floor() as usize, at.ceil() as usize);
    sorted[low] + (sorted[high] - sorted[low]) * (at - low as f64)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::alter::Recipe;

    fn garment(planned: f64, ended: f64, measurer: &str) -> PlannedAndPinned {
        PlannedAndPinned {
            alteration: "rounded_back".into(),
            cutter: "A".into(),
            measurer: measurer.into(),
            planned,
            ended,
        }
    }

    #[test]
    fn a_house_learns_from_its_garments() {
        let ends = [12.0, 13.0, 13.0, 14.0, 12.5, 13.5];
        let all: Vec<_> = ends.iter().map(|ended| garment(10.0, *ended, "B")).collect();
        let house = &calibrate(&all)[0];
        assert_eq!((house.by, house.count), (CalibratedBy::House, 6));
        assert!((house.factor - 1.3).abs() < 1e-9 && house.offered, "{house:?}");
    }

    #[test]
    fn a_correction_brings_the_whole_amount_to_where_it_ends_once() {
        let all: Vec<_> = (0..6).map(|_| garment(10.0, 13.0, "B")).collect();
        let learnt = calibrate(&all);
        let house = &learnt[0];
        let mut recipe = Recipe::default();
        for (mm, why) in [(10.0, "the plan"), (6.0, "the first toile")] {
            let amounts = Amounts::of(mm).by("finish", "neck_dart");
            recipe.take(Decided::new("rounded_back", amounts, why));
        }
        let step = &recipe.steps[0];
        let decided = house.correction_of(step).unwrap();
        assert!((decided.amounts.amount() - 16.0 * 0.3).abs() < 1e-9, "of both decisions together");
        assert_eq!(decided.reason, "House correction × 1.30 (n = 6).");
        assert_eq!(decided.amounts.0.get("finish"), step.amounts.0.get("finish"), "in the step's own way");
        let mut corrected = recipe.clone();
        corrected.take(decided);
        assert_eq!(corrected.steps.len(), 1, "it is more of the same step");
        assert!((corrected.steps[0].total().amount() - 16.0 * 1.3).abs() < 1e-9);
        assert_eq!(house.correction_of(&corrected.steps[0]), None, "once");
        // What one cutter's garments teach is told, and not offered for the house.
        assert_eq!(learnt.iter().filter(|each| each.correction_of(step).is_some()).count(), 1);
    }

    #[test]
    fn too_few_or_both_ways_is_not_offered() {
        let few: Vec<_> = (0..4).map(|_| garment(10.0, 13.0, "B")).collect();
        assert!(calibrate(&few).iter().all(|c| !c.offered));
        let wide: Vec<_> = [5.0, 8.0, 14.0, 15.0, 9.0, 16.0].map(|ended| garment(10.0, ended, "B")).to_vec();
        assert!(calibrate(&wide).iter().all(|c| !c.offered));
    }

    #[test]
    fn measurers_are_told_apart_and_a_trace_is_left_out() {
        let mut all: Vec<_> = (0..5).map(|_| garment(10.0, 15.0, "B")).collect();
        all.extend((0..5).map(|_| garment(10.0, 10.0, "C")));
        all.push(garment(1.0, 9.0, "C"));
        let of = |who: &str| {
            calibrate(&all).into_iter().find(|c| c.by == CalibratedBy::Measurer && c.who == who).unwrap()
        };
        assert_eq!((of("B").factor, of("B").offered), (1.5, true));
        assert_eq!((of("C").factor, of("C").offered, of("C").count), (1.0, false, 5));
    }
}
