//! The demo's straight skirt: her own block, a first toile, and the hip that stands higher.

use yardwand_core::alter::{Amounts, Decided, Recipe, make};
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::ease::ease_set;
use yardwand_core::fitting::{Decision, Observation, Pinned, PinnedAs, PinnedOn, read_observation};
use yardwand_core::pattern::{Garment, WornSide};
use yardwand_core::{INCH, Unit};
use yardwand_store::{Aside, Backdated, How, NewBlock, NewPattern, NewVersion};

use super::fitting::in_round;
use super::{STYLE, Seeded, Seeder, ago, house_figure};
use crate::figures::profile_of_client;
use crate::workroom::own_name;

/// What was let down at her left side, in millimetres.
const LET_DOWN: f64 = 0.5 * INCH;

impl Seeder<'_> {
    /// She plays the viola standing with her weight on the right: the left hip stands higher.
    pub(super) async fn straight_skirt(&self, client: u64, name: &str) -> Seeded {
        let (store, once) = (self.store, self.once);
        let taken = self.order_of(client, "Straight skirt, to the knee", "skirt", 33, 24).await?;
        let waist = house_figure(0.0).get("waist_girth").unwrap_or_default();
        let her_own = [
            ("waist_girth", waist),
            ("top_hip_girth", waist + 6.5 * INCH),
            ("hip_girth", waist + 10.0 * INCH),
            ("waist_to_hip", 8.25 * INCH),
            ("waist_to_knee", 23.0 * INCH),
            ("waist_to_floor", 41.0 * INCH),
            ("skirt_length", 25.0 * INCH),
        ];
        self.measure(taken, &her_own.into_iter().collect(), usize::MAX, 22).await?;
        let profile = profile_of_client(store, client).await.map_err(|_| "her figures cannot be read")?;
        let body = profile.body_with(MethodKind::Skirt.wishes());
        let ease = ease_set("skirt", Unit::Inch).ok_or("no ease of a skirt")?;
        let method = Method { kind: MethodKind::Skirt, ..Method::usual(STYLE.unit()) };
        let method = method.with_ease(ease, &body);
        let pattern = draft(&body, &method, STYLE)?.pattern;
        let block = NewBlock {
            name: own_name(name, Garment::Skirt),
            client_id: Some(client),
            how: How::Drafted,
            told: String::new(),
            parent_id: None,
            method: Some(method),
            ease_set: ease.code.clone(),
            why: "Drafted from her own readings.".into(),
            sizes: vec![BlockSize::drawn("own", body, pattern.clone())],
        };
        let block_id = store.add_block(&block, once).await?;
        let block_name = format!("{}, size own, version 1", block.name);
        let mut recipe =
            Recipe::default().and("waistband", Amounts::of(1.375 * INCH), "Narrow, under a blouse.");
        let new = NewPattern { block_id, block_name: &block_name, block: &pattern, recipe: &recipe };
        let kept = store.begin_pattern(taken.order, new, false, once).await?;
        let with_band = make(&pattern, &recipe, STYLE).pattern;
        let first = NewVersion { recipe: recipe.clone(), pattern: with_band, why: "First toile.".into() };
        let first = store.add_version(kept, &first, once).await?;
        store.backdate(Backdated::Version(first), ago(16)).await?;
        let round = self.round(taken.order, first, "Her flat shoes for the stage.").await?;
        let pinned = Pinned { depth: LET_DOWN, pinned_as: PinnedAs::Tuck, on: PinnedOn::ThatSide };
        let hike =
            Observation { pinned: Some(pinned), ..read_observation("hike up at side hem on the left")? };
        let (amounts, said) = (Amounts::of(LET_DOWN), hike.said());
        let decided = Decision::Alter {
            alteration: "high_hip".into(),
            amounts: amounts.clone(),
            side: Some(WornSide::Left),
            cause: Some("high_hip".into()),
            overruled: String::new(),
        };
        self.see(round, hike, 9, Some(decided)).await?;
        let comfort = Some("I can sit down in it, and it does not turn.".to_owned());
        store.set_aside(round, &Aside { comfort, ..Aside::default() }, once).await?;
        recipe.take(Decided { side: Some(WornSide::Left), ..in_round(1, "high_hip", amounts, &said) });
        let made = make(&pattern, &recipe, STYLE);
        if let Some((step, why)) = made.refused().next() {
            return Err(format!("{}: {why}", step.alteration).into());
        }
        let second = NewVersion { pattern: made.pattern, recipe, why: "Decided in fitting round 1.".into() };
        let revision = store.pattern(kept).await?.revision;
        store.close_round(round, kept, self.seen(round, revision).await?, Some(&second), once).await?;
        Ok(store.backdate(Backdated::Round(round), ago(9)).await?)
    }
}
