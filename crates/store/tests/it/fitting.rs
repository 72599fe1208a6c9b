//! The fitting room's keeping, on a real MariaDB: what is erased with a client, what comes late, what happens twice.

use crate::common::{client, store, take_order};
use chrono::{Days, TimeDelta, Utc};
use yardwand_core::Style;
use yardwand_core::alter::Recipe;
use yardwand_core::body::{Body, LineHeights};
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{Direct, Method, draft_direct};
use yardwand_core::fitting::{
    Away, BalanceLine, Mark, Observation, ObservationKind, PlannedVisit, Visit, VisitKind,
};
use yardwand_core::pattern::Pattern;
use yardwand_devdb::TestDb;
use yardwand_store::{
    BalanceRow, How, NewBlock, NewLetter, NewPattern, NewPhotograph, NewRound, NewVersion, Once, RoundSeen,
    RoundStage, Store, StoreError,
};

struct House {
    store: Store,
    db: TestDb,
    person: u64,
    block: u64,
    drawn: Pattern,
}

impl House {
    async fn new() -> Self {
        let (store, db, person) = store().await;
        let drawn = draft_direct(&Body::middle(), &Direct::default(), Style::TENTHS).unwrap().pattern;
        let block = NewBlock {
            name: "Master".into(),
            client_id: None,
            how: How::Drafted,
            told: String::new(),
            parent_id: None,
            method: Some(Method::default()),
            ease_set: "standard".into(),
            why: String::new(),
            sizes: vec![BlockSize::drawn("12", Body::middle(), drawn.clone())],
        };
        let block = store.add_block(&block, Once::by(person)).await.unwrap();
        Self { store, db, person, block, drawn }
    }

    fn once(&self) -> Once<'_> {
        Once::by(self.person)
    }

    async fn client(&self, name: &str) -> u64 {
        self.store.add_client(&client(name), self.once()).await.unwrap()
    }

    async fn order(&self, client_id: u64) -> (u64, u64, u64) {
        let order = take_order(&self.store, client_id, "Dress", self.once()).await;
        let recipe = Recipe::default();
        let new = NewPattern {
            block_id: self.block,
            block_name: "Master, 12",
            block: &self.drawn,
            recipe: &recipe,
        };
        let pattern = self.store.begin_pattern(order, new, false, self.once()).await;
        let pattern = pattern.unwrap();
        let version = NewVersion { recipe, pattern: self.drawn.clone(), why: "toile".into() };
        let version = self.store.add_version(pattern, &version, self.once()).await.unwrap();
        (order, pattern, version)
    }

    async fn round(&self, order: u64, version_id: u64) -> u64 {
        let new = NewRound { version_id, stage: RoundStage::Toile, worn: String::new() };
        self.store.open_round(order, &new, self.once()).await.unwrap()
    }

    async fn rows(&self, table: &str) -> i64 {
        let pool = sqlx::MySqlPool::connect(&self.db.url()).await.unwrap();
        let sql = sqlx::AssertSqlSafe(format!("SELECT COUNT(*) FROM {table}"));
        sqlx::query_scalar(sql).fetch_one(&pool).await.unwrap()
    }
}

fn photograph(observation: Option<u64>, taken_at: chrono::DateTime<Utc>) -> NewPhotograph {
    NewPhotograph { observation, image: vec![0xff, 0xd8, 1, 2, 3], width: 1, height: 1, taken_at }
}

/// Numbers without chance: the same on every run.
fn dice(seed: u64) -> impl FnMut(u64) -> u64 {
    let mut state = seed;
    move |sides| {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) % sides
    }
}

#[tokio::test]
async fn erasing_a_client_leaves_no_photograph_and_nothing_else_of_her() {
    const OF_HER: [&str; 9] = [
        "photographs",
        "observations",
        "marks",
        "balance_lines",
        "tests_made",
        "visits",
        "away_days",
        "letters",
        "story_links",
    ];
    let house = House::new().await;
    for case in 0..6 {
        let mut roll = dice(case);
        let client = house.client("Passing").await;
        for _ in 0..=roll(3) {
            fill(&house, client, &mut roll).await;
        }
        for table in OF_HER {
            assert!(house.rows(table).await > 0, "case {case} wrote nothing into {table}");
        }
        house.store.erase_client(client, &[], house.once()).await.unwrap();
        for table in OF_HER {
            assert_eq!(house.rows(table).await, 0, "case {case} left something in {table}");
        }
    }
}

/// A garment with everything a fitting room writes.
async fn fill(house: &House, client: u64, roll: &mut impl FnMut(u64) -> u64) {
    let (store, once) = (&house.store, house.once());
    let (order, pattern, version) = house.order(client).await;
    let mut before = None;
    for number in 0..=roll(3) + 1 {
        let round = house.round(order, version).await;
        let seen = Observation::of(ObservationKind::Gape, "front neckline");
        let seen = store.observe(round, &seen, Utc::now(), once).await.unwrap();
        if let Some(earlier) = before {
            store.mark(round, earlier, Mark::Better, Some(3.0), once).await.unwrap();
        }
        for of in [None, Some(seen)].into_iter().cycle().take(1 + roll(4) as usize) {
            store.add_photograph(round, &photograph(of, Utc::now()), once).await.unwrap();
        }
        let heights = LineHeights { front: Some(1000.0), back: Some(1010.0), ..LineHeights::default() };
        let line = BalanceRow { round_id: round, line: BalanceLine::Waist, heights, caught: Vec::new() };
        store.set_balance(&line, once).await.unwrap();
        store.set_test(round, "hollow_chest", Some(number == 0), once).await.unwrap();
        store.close_round(round, pattern, as_seen(store, round, 1).await, None, once).await.unwrap();
        before = Some(seen);
        assert_eq!(u64::from(store.round(round).await.unwrap().number), number + 1);
    }
    let today = Utc::now().date_naive();
    let visit = Visit { kind: VisitKind::Toile, number: 1 };
    let planned = PlannedVisit { visit, name: visit.name(), on: today + Days::new(roll(60)), settled: false };
    let revision = store.order(order).await.unwrap().order.revision;
    store.set_visits(order, &[planned], revision, once).await.unwrap();
    let row = &store.visits_of(order).await.unwrap()[0];
    let letter = NewLetter {
        visit_id: row.id,
        on_day: row.planned.on,
        to_name: "Passing".into(),
        to_address: String::new(),
        subject: "Toile".into(),
        body: "Dear …".into(),
    };
    assert_eq!(store.write_letters(std::slice::from_ref(&letter)).await.unwrap(), 1);
    assert_eq!(store.write_letters(&[letter]).await.unwrap(), 0, "a letter is written once");
    let away = Away { from: today, to: today + Days::new(1 + roll(9)), why: String::new() };
    store.add_away(client, &[away], once).await.unwrap();
    let token = [roll(256) as u8; 32].map(|byte| byte.wrapping_add(order as u8));
    store.share_story(order, &token, Utc::now() + TimeDelta::days(1), once).await.unwrap();
}

#[tokio::test]
async fn what_waited_for_the_line_belongs_to_the_round_it_was_seen_in() {
    let house = House::new().await;
    let client = house.client("Late").await;
    let (order, pattern, version) = house.order(client).await;
    let round = house.round(order, version).await;
    let while_open = Utc::now();
    let (store, once) = (&house.store, house.once());
    store.close_round(round, pattern, as_seen(store, round, 1).await, None, once).await.unwrap();
    let seen = Observation::of(ObservationKind::Gape, "front neckline");
    let late = store.observe(round, &seen, while_open, once).await.unwrap();
    store.add_photograph(round, &photograph(Some(late), while_open), once).await.unwrap();
    let after = Utc::now() + TimeDelta::seconds(2);
    for refused in [
        store.observe(round, &seen, after, once).await,
        store.add_photograph(round, &photograph(None, after), once).await,
    ] {
        assert!(matches!(refused, Err(StoreError::Refused(_))), "{refused:?}");
    }
    // It is asked about in the next round.
    assert_eq!(store.order(order).await.unwrap().facts.still_open, 1);
}

#[tokio::test]
async fn a_tap_that_is_repeated_keeps_one_photograph_and_one_observation() {
    let house = House::new().await;
    let client = house.client("Twice").await;
    let (order, _, version) = house.order(client).await;
    let round = house.round(order, version).await;
    let store = &house.store;
    let seen = Observation::of(ObservationKind::Gape, "front neckline");
    for _ in 0..3 {
        let once = Once::keyed(house.person, Some("observation, once"));
        store.observe(round, &seen, Utc::now(), once).await.unwrap();
        let once = Once::keyed(house.person, Some("photograph, once"));
        store.add_photograph(round, &photograph(None, Utc::now()), once).await.unwrap();
    }
    assert_eq!(store.observations(order).await.unwrap().len(), 1);
    assert_eq!(store.photographs(order).await.unwrap().len(), 1);
}

async fn as_seen(store: &Store, round: u64, recipe: u32) -> RoundSeen {
    RoundSeen { changes: store.round_changes(round).await.unwrap(), recipe }
}
