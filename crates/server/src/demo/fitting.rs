//! The demo's fitting room: a second round in hand, a garment handed over and what it taught, and the dates.

use chrono::{Datelike, Days, NaiveDate, TimeDelta, Utc};
use yardwand_core::alter::{Amounts, Decided, Recipe, make};
use yardwand_core::body::{LineHeights, Side, catalogue};
use yardwand_core::fitting::{
    BalanceLine, Decision, HouseCalendar, Lie, Mark, Observation, ObservationKind, Pinned, PinnedAs,
    PinnedOn, PlannedVisit, Posture, Visit, VisitKind, Wish, plan_dates,
};
use yardwand_store::{
    Aside, Backdated, BalanceRow, NewPhotograph, NewRound, NewVersion, Orders, RoundSeen, RoundStage,
};

use crate::picture::{Kept, Picture, taken_in};

use super::photograph::toile_on_a_stand;
use super::{STYLE, Seeded, Seeder, ago, drawn_of, player};

fn tuck(depth: f64) -> Option<Pinned> {
    Some(Pinned { depth, pinned_as: PinnedAs::Tuck, on: PinnedOn::BothSides })
}

fn comfort(words: &str) -> Aside {
    Aside { comfort: Some(words.to_owned()), ..Aside::default() }
}

impl Seeder<'_> {
    pub(super) async fn round(&self, order: u64, version_id: u64, worn: &str) -> Seeded<u64> {
        let new = NewRound { version_id, stage: RoundStage::Toile, worn: worn.to_owned() };
        Ok(self.store.open_round(order, &new, self.once).await?)
    }

    pub(super) async fn see(
        &self,
        round: u64,
        seen: Observation,
        days: i64,
        decision: Option<Decision>,
    ) -> Seeded<u64> {
        let id = self.store.observe(round, &seen, ago(days), self.once).await?;
        if let Some(decision) = decision {
            self.store.decide(id, &decision, 1, None, self.once).await?;
        }
        Ok(id)
    }

    pub(super) async fn second_round(&self) -> Seeded {
        let notes = "Cello. Sits with both arms forward; wide knees.";
        let client = self.client("Clara Wynn-Osei", "clara@orchestra.example", notes, 46).await?;
        let taken = self.order(client, "Long concert dress", 26, 46).await?;
        let body = player(
            1.0,
            &[
                ("bust_girth", 3.0),
                ("bust_span", 0.75),
                ("snp_to_bust_point", 0.5),
                ("snp_to_waist_front", 1.25),
                ("shoulder_length", 0.5),
            ],
        );
        self.measure(taken, &body, catalogue().len(), 42).await?;
        let (pattern, planned) = self.pattern(taken.order, &body, "14").await?;
        // The plan's shoulder was left out at first: the toile asked for it.
        let steps = planned.steps.into_iter().filter(|step| step.alteration == "full_bust").collect();
        let recipe = Recipe { steps, ..Recipe::default() };
        self.store.change_recipe(pattern, &recipe, 1, self.once.person).await?;
        let version = self.freeze(pattern, "14", &recipe, "First toile.", 33).await?;
        let round = self.round(taken.order, version, "Her concert foundation, flat shoes.").await?;
        let drag = Observation {
            towards: Some("shoulder tip".into()),
            note: "Drags up into the cap; the seam ends short of the joint, both sides.".into(),
            pinned: tuck(10.0),
            ..Observation::of(ObservationKind::Drag, "sleeve cap")
        };
        let amounts = Amounts::of(10.0);
        let decided = Decision::Alter {
            alteration: "shoulder_length".into(),
            amounts: amounts.clone(),
            side: None,
            cause: Some("short_shoulder".into()),
            overruled: String::new(),
        };
        let said = drag.said();
        let drag = self.see(round, drag, 26, Some(decided)).await?;
        let strain = Observation {
            note: "Still a little tight when she bows low.".into(),
            posture: Some(Posture::ArmsForward),
            pinned: tuck(4.0),
            ..Observation::of(ObservationKind::Strain, "bust")
        };
        let strain = self.see(round, strain, 26, Some(Decision::Watch)).await?;
        let words = comfort("I can breathe, but the shoulders pull when I reach.");
        self.store.set_aside(round, &words, self.once).await?;
        let mut recipe = recipe;
        recipe.take(in_round(1, "shoulder_length", amounts, &said));
        let made = NewVersion {
            pattern: make(drawn_of(self.size("14")?)?, &recipe, STYLE).pattern,
            recipe,
            why: "Decided in fitting round 1.".into(),
        };
        self.store.close_round(round, pattern, self.seen(round, 2).await?, Some(&made), self.once).await?;
        self.store.backdate(Backdated::Round(round), ago(26)).await?;
        let newest = self.store.versions(pattern).await?.first().map(|v| v.id).ok_or("no version")?;
        self.store.backdate(Backdated::Version(newest), ago(26)).await?;
        let second = self.round(taken.order, newest, "The same foundation and shoes.").await?;
        self.store.backdate(Backdated::Round(second), Utc::now() - TimeDelta::hours(2)).await?;
        self.store.mark(second, drag, Mark::Gone, None, self.once).await?;
        self.store.mark(second, strain, Mark::Worse, Some(6.35), self.once).await?;
        let line = BalanceRow {
            round_id: second,
            line: BalanceLine::Waist,
            heights: LineHeights {
                front: Some(1066.8),
                left: Some(1054.1),
                right: Some(1055.7),
                back: Some(1054.1),
            },
            caught: Vec::new(),
        };
        self.store.set_balance(&line, self.once).await?;
        let tight = Observation {
            towards: Some("bust".into()),
            note: "Opened the side seam at the bust: it wants a little more, both sides.".into(),
            pinned: tuck(6.35),
            ..Observation::of(ObservationKind::Drag, "side seam")
        };
        let tight = self.see(second, tight, 0, None).await?;
        let Picture { bytes, width, height } = taken_in(&toile_on_a_stand()?, Kept::ToLookAt)?;
        let taken = Utc::now() - TimeDelta::hours(2);
        let photograph =
            NewPhotograph { observation: Some(tight), image: bytes, width, height, taken_at: taken };
        self.store.add_photograph(second, &photograph, self.once).await?;
        Ok(())
    }

    pub(super) async fn finished(&self) -> Seeded {
        let notes = "Flute. Left shoulder carries the flute case.";
        let client = self.client("Dorothea Lamb", "dorothea@orchestra.example", notes, 900).await?;
        let body =
            player(2.0, &[("bust_girth", 1.0), ("shoulder_length", -0.375), ("nape_to_waist_back", 0.5)]);
        let taken = self.order(client, "Midnight blue dress", 0, 120).await?;
        self.measure(taken, &body, catalogue().len(), 116).await?;
        let (pattern, recipe) = self.pattern(taken.order, &body, "16").await?;
        let version = self.freeze(pattern, "16", &recipe, "First toile.", 105).await?;
        let round = self.round(taken.order, version, "Her own foundation, low heels.").await?;
        let fold = Observation {
            lie: Some(Lie::Across),
            note: "A soft fold above the waist when she sits.".into(),
            posture: Some(Posture::Sitting),
            side: Side::Both,
            ..Observation::of(ObservationKind::Fold, "front waist")
        };
        let left = Decision::Leave { reason: "it is gone when she stands".into() };
        self.see(round, fold, 98, Some(left)).await?;
        self.store.set_aside(round, &comfort("Like a glove."), self.once).await?;
        self.store.close_round(round, pattern, self.seen(round, 1).await?, None, self.once).await?;
        self.store.backdate(Backdated::Round(round), ago(98)).await?;
        self.store.finish_order(taken.order, true, 1, self.once.person).await?;
        self.store.backdate(Backdated::Order(taken.order), ago(120)).await?;
        // What the earlier garments were planned with, and what the pins made of it.
        let earlier = [
            ("Black blouse", 820, 12.7),
            ("Summer concert dress", 640, 12.0),
            ("Velvet jacket", 510, 12.7),
            ("Grey rehearsal dress", 380, 11.5),
            ("Tour dress", 240, 13.0),
        ];
        for (garment, days, ended) in earlier {
            let taken = self.order(client, garment, 0, days).await?;
            self.handed_over(taken.order, &body, days, ended).await?;
        }
        Ok(())
    }

    pub(super) async fn seen(&self, round: u64, recipe: u32) -> Seeded<RoundSeen> {
        Ok(RoundSeen { changes: self.store.round_changes(round).await?, recipe })
    }

    /// A garment of former years: planned with a rounded back of 3/8 in, which the toile made more.
    async fn handed_over(
        &self,
        order: u64,
        body: &yardwand_core::body::Body,
        days: i64,
        ended: f64,
    ) -> Seeded {
        const PLANNED: f64 = 9.525;
        let (pattern, _) = self.pattern(order, body, "16").await?;
        let recipe =
            Recipe::default().and("rounded_back", Amounts::of(PLANNED), "Her back length over the block's.");
        self.store.change_recipe(pattern, &recipe, 1, self.once.person).await?;
        let version = self.freeze(pattern, "16", &recipe, "First toile.", days - 10).await?;
        let round = self.round(order, version, "Her own foundation, low heels.").await?;
        let hike = Observation {
            lie: Some(Lie::Up),
            pinned: tuck(ended - PLANNED),
            ..Observation::of(ObservationKind::Hike, "back waist")
        };
        let amounts = Amounts::of(ended - PLANNED);
        let decided = Decision::Alter {
            alteration: "rounded_back".into(),
            amounts: amounts.clone(),
            side: None,
            cause: Some("rounded_back".into()),
            overruled: String::new(),
        };
        let said = hike.said();
        self.see(round, hike, days - 12, Some(decided)).await?;
        let mut recipe = recipe;
        recipe.take(in_round(1, "rounded_back", amounts, &said));
        let made = NewVersion {
            pattern: make(drawn_of(self.size("16")?)?, &recipe, STYLE).pattern,
            recipe,
            why: "Decided in fitting round 1.".into(),
        };
        self.store.close_round(round, pattern, self.seen(round, 2).await?, Some(&made), self.once).await?;
        self.store.backdate(Backdated::Round(round), ago(days - 12)).await?;
        self.store.finish_order(order, true, 1, self.once.person).await?;
        self.store.backdate(Backdated::Order(order), ago(days)).await?;
        Ok(())
    }

    /// Dates for every garment in hand that has none: planned back from the wanted day; Clara's second toile is today.
    pub(super) async fn dates(&self) -> Seeded {
        let today = Utc::now().date_naive();
        let house = HouseCalendar::default();
        for facts in self.store.orders(Orders::InHand).await? {
            let order = facts.order;
            let Some(wanted) = order.wanted_on else { continue };
            if !self.store.visits_of(order.id).await?.is_empty() {
                continue;
            }
            let visit = |kind, number| Visit { kind, number };
            let planned = |visit: Visit, on, settled| PlannedVisit { visit, name: visit.name(), on, settled };
            let visits = if facts.facts.round_open {
                let been = |days: u64| today - Days::new(days);
                // A house that is open from Monday to Friday sees nobody on a Sunday.
                let open = |day: NaiveDate| {
                    day - Days::new(u64::from(day.weekday().num_days_from_monday().saturating_sub(4)))
                };
                let ahead =
                    |share: i64| open(today + TimeDelta::days((wanted - today).num_days() * share / 10));
                let second = match facts.facts.round {
                    1 => open(today + Days::new(4 + order.id % 5)),
                    _ => today,
                };
                vec![
                    planned(visit(VisitKind::Measuring, 1), been(42), true),
                    planned(visit(VisitKind::Cutting, 1), been(33), true),
                    planned(visit(VisitKind::Toile, 1), been(26), true),
                    planned(visit(VisitKind::Toile, 2), second, false),
                    planned(visit(VisitKind::ClothFitting, 1), ahead(4), false),
                    planned(visit(VisitKind::FinalFitting, 1), ahead(8), false),
                    planned(visit(VisitKind::Delivery, 1), wanted, false),
                ]
            } else {
                // Whose pattern is begun was measured for it.
                let was_measured = facts.facts.has_pattern || facts.facts.missing == 0;
                let measured_on = was_measured.then(|| today - Days::new(20));
                let wish = Wish {
                    today,
                    wanted,
                    toiles: order.toiles,
                    away: Vec::new(),
                    booked: self.store.booked(today, order.id).await?,
                    measured_on,
                    settled: Vec::new(),
                };
                let plan = plan_dates(&house, &wish);
                if !plan.feasible {
                    continue;
                }
                plan.visits
            };
            self.store.set_visits(order.id, &visits, order.revision, self.once).await?;
        }
        Ok(())
    }
}

/// A decision of a fitting round as its closing takes it into the recipe.
pub(super) fn in_round(round: u32, alteration: &str, amounts: Amounts, said: &str) -> Decided {
    let (round, by) = (Some(round), Some("Marit Holm".to_owned()));
    Decided { round, by, ..Decided::new(alteration, amounts, &format!("{said}.")) }
}
