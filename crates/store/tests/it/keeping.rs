//! The rules of keeping, on a real MariaDB.

use crate::common::{client, store, take_order};
use chrono::Utc;
use yardwand_core::alter::Recipe;
use yardwand_core::body::{Body, measurement_set};
use yardwand_core::compare::{BlockSize, PlanChanges};
use yardwand_core::draft::{Direct, Method, MethodKind, draft, draft_direct};
use yardwand_core::fitting::{Decision, Mark, Observation, ObservationKind};
use yardwand_core::pattern::{Garment, PatternMeasure, PatternMeasures};
use yardwand_core::{Length, Style, Unit};
use yardwand_store::{
    ChangesOf, House, How, Kept, Measuring, NewBlock, NewPattern, NewReading, NewRound, NewSession,
    NewVersion, Once, OrderPlan, Orders, PersonRow, Role, RoundSeen, RoundStage, Shelf, Store, StoreError,
};

fn codes() -> &'static [String] {
    &measurement_set("bodice_direct").unwrap().codes
}

fn new_session(client: u64) -> NewSession<'static> {
    NewSession {
        client,
        order: None,
        set_code: "bodice_direct",
        set_name: "Bodice, direct draft",
        codes: codes(),
        unit: Unit::Inch,
    }
}

#[tokio::test]
async fn migrating_twice_changes_nothing() {
    let (store, _db, person) = store().await;
    let id = store.add_client(&client("Kept"), Once::by(person)).await.unwrap();
    store.migrate().await.unwrap();
    assert_eq!(store.client(id).await.unwrap().name, "Kept");
}

#[tokio::test]
async fn every_thirty_second_of_an_inch_is_kept_exactly() {
    let (store, _db, person) = store().await;
    let id = store.add_client(&client("Fine"), Once::by(person)).await.unwrap();
    let session = store.open_session(new_session(id), Once::by(person)).await.unwrap();
    for (place, parts) in [1, 3, 31, 37 * 32 + 5].into_iter().enumerate() {
        let length = Length::from_inches(f64::from(parts) / 32.0);
        let typed = Style::Inch { denominator: 32 }.write(length);
        let entered = Length::read(&typed, Unit::Inch).unwrap();
        let reading = NewReading::plain("bust_girth", entered);
        store.record(session, &reading, Once::by(person)).await.unwrap();
        let kept = store.readings(session).await.unwrap();
        let standing: Vec<_> = kept.iter().filter(|row| !row.replaced).collect();
        assert_eq!(standing.len(), 1, "a correction replaces");
        assert_eq!(kept.len(), place + 1, "and keeps the old row");
        assert_eq!(standing[0].entered.length, length, "{typed}");
    }
}

#[tokio::test]
async fn a_stale_revision_is_refused_and_says_both() {
    let (store, _db, person) = store().await;
    let id = store.add_client(&client("First"), Once::by(person)).await.unwrap();
    store.change_client(id, &client("Second"), 1, person).await.unwrap();
    let late = store.change_client(id, &client("Third"), 1, person).await.unwrap_err();
    assert!(matches!(late, StoreError::Stale { now: 2, saw: 1, .. }), "{late}");
    assert_eq!(store.client(id).await.unwrap().name, "Second");
    let missing = store.change_client(id + 1, &client("X"), 1, person).await.unwrap_err();
    assert!(matches!(missing, StoreError::NotFound { .. }));
}

#[tokio::test]
async fn the_house_is_changed_by_revision_too() {
    let (store, _db, person) = store().await;
    let house = House {
        name: "H".into(),
        style: Style::TENTHS,
        ease_set: "close".into(),
        measuring: Measuring::default(),
        calendar: Default::default(),
        shows_stories: false,
        revision: 0,
    };
    store.change_house(&house, person).await.unwrap();
    assert_eq!(store.house().await.unwrap(), House { revision: 1, ..house.clone() });
    assert!(matches!(store.change_house(&house, person).await, Err(StoreError::Stale { now: 1, .. })));
}

#[tokio::test]
async fn a_key_saves_once_for_one_person_only() {
    let (store, _db, person) = store().await;
    let other = store.add_person("N", "n@house.example", "x", Role::Owner).await.unwrap();
    let key = Some("0b54a1a7-4a0d-4f4b-9a52-5fca0b3a5f10");
    let first = store.add_client(&client("A"), Once::keyed(person, key)).await.unwrap();
    assert_eq!(store.add_client(&client("A"), Once::keyed(person, key)).await.unwrap(), first);
    assert_ne!(store.add_client(&client("A"), Once::keyed(other, key)).await.unwrap(), first);
}

#[tokio::test]
async fn a_search_is_text_and_pages_follow_each_other() {
    let (store, _db, person) = store().await;
    for name in ["Anna 100%", "Anna_b", "Annab", "Zoë"] {
        store.add_client(&client(name), Once::by(person)).await.unwrap();
    }
    let found = |part: &'static str| {
        let store = store.clone();
        async move {
            store
                .clients(part, false, None, 10)
                .await
                .unwrap()
                .into_iter()
                .map(|c| c.name)
                .collect::<Vec<_>>()
        }
    };
    assert_eq!(found("a_b").await, ["Anna_b"]);
    assert_eq!(found("0%").await, ["Anna 100%"]);
    assert_eq!(found("zoe").await, ["Zoë"], "accents and case do not hide a name");
    let first = store.clients("", false, None, 2).await.unwrap();
    let rest = store.clients("", false, first.last().map(|c| (c.name.as_str(), c.id)), 10).await.unwrap();
    assert_eq!(first.len() + rest.len(), 4);
}

#[tokio::test]
async fn every_change_is_noted_with_it_and_a_refused_one_is_not() {
    let (store, _db, person) = store().await;
    let id = store.add_client(&client("Noted"), Once::by(person)).await.unwrap();
    store.change_client(id, &client("Noted twice"), 1, person).await.unwrap();
    store.change_client(id, &client("Too late"), 1, person).await.unwrap_err();
    let noted = store.changes(ChangesOf { client: Some(id), ..ChangesOf::default() }, 9).await.unwrap();
    assert_eq!(noted.iter().map(|c| c.what.as_str()).collect::<Vec<_>>(), ["changed", "added"]);
    assert!(noted.iter().all(|c| c.person.is_some() && c.client.as_deref() == Some("Noted twice")));
}

fn block() -> NewBlock {
    let figure: Body = [
        ("neck_base_girth", 370.0),
        ("shoulder_length", 125.0),
        ("shoulder_slope", 41.0),
        ("across_front", 328.0),
        ("across_back", 348.0),
        ("bust_girth", 920.0),
        ("upper_bust_girth", 870.0),
        ("waist_girth", 725.0),
        ("bust_span", 188.0),
        ("snp_to_bust_point", 266.0),
        ("snp_to_waist_front", 431.0),
        ("snp_to_waist_back", 419.0),
        ("nape_to_waist_back", 400.0),
        ("armhole_depth", 190.0),
        ("side_length", 190.0),
    ]
    .into_iter()
    .collect();
    let pattern = draft_direct(&figure, &Direct::default(), Style::EIGHTHS).unwrap().pattern;
    NewBlock {
        name: "House".into(),
        client_id: None,
        how: How::Drafted,
        told: String::new(),
        parent_id: None,
        method: Some(Method::default()),
        ease_set: "standard".into(),
        why: "first".into(),
        sizes: vec![BlockSize::drawn("12", figure, pattern)],
    }
}

#[tokio::test]
async fn a_block_comes_back_to_the_last_bit_and_a_second_is_version_2() {
    let (store, _db, person) = store().await;
    let new = block();
    let first = store.add_block(&new, Once::by(person)).await.unwrap();
    assert_eq!(store.block(first).await.unwrap().sizes, new.sizes);
    let second = store.add_block(&new, Once::by(person)).await.unwrap();
    assert_eq!(store.block(first).await.unwrap().summary.version, 1);
    assert_eq!(store.block(second).await.unwrap().summary.version, 2);
}

#[tokio::test]
async fn versions_and_rounds_are_numbered_and_a_closed_round_takes_nothing() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let client_id = store.add_client(&client("Numbered"), once).await.unwrap();
    let order = take_order(&store, client_id, "Dress", once).await;
    let block_id = store.add_block(&block(), once).await.unwrap();
    let geometry = block().sizes[0].pattern().unwrap().clone();
    let recipe = Recipe::default();
    let new = NewPattern { block_id, block_name: "House, 12", block: &geometry, recipe: &recipe };
    let pattern = store.begin_pattern(order, new, false, once).await.unwrap();
    let again = store.begin_pattern(order, new, false, once).await;
    assert!(matches!(again, Err(StoreError::Refused(_))), "an order has one pattern");

    let version = NewVersion { recipe: recipe.clone(), pattern: geometry.clone(), why: "toile".into() };
    let first = store.add_version(pattern, &version, once).await.unwrap();
    let second = store.add_version(pattern, &version, once).await.unwrap();
    assert_eq!(store.version(first).await.unwrap().version, 1);
    assert_eq!(store.version(second).await.unwrap().version, 2);
    assert_eq!(store.version(second).await.unwrap().pattern, geometry);

    let round = store
        .open_round(
            order,
            &NewRound { version_id: second, stage: RoundStage::Toile, worn: "flat shoes".into() },
            once,
        )
        .await
        .unwrap();
    assert!(
        matches!(
            store
                .open_round(
                    order,
                    &NewRound { version_id: second, stage: RoundStage::Toile, worn: "".into() },
                    once
                )
                .await,
            Err(StoreError::Refused(_))
        ),
        "one at a time"
    );
    let seen = Observation::of(ObservationKind::Fold, "bust");
    let observed = store.observe(round, &seen, Utc::now(), once).await.unwrap();
    let facts = store.order(order).await.unwrap().facts;
    assert_eq!((facts.round, facts.round_version, facts.undecided, facts.round_open), (1, 2, 1, true));
    store.decide(observed, &Decision::Watch, 1, None, Once::by(person)).await.unwrap();
    let late = store.decide(observed, &Decision::Watch, 1, None, Once::by(person)).await.unwrap_err();
    assert!(matches!(late, StoreError::Stale { .. }), "{late}");

    let stale = store
        .close_round(round, pattern, as_seen(&store, round, 7).await, Some(&version), once)
        .await
        .unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 1, saw: 7, .. }), "{stale}");
    assert_eq!(store.versions(pattern).await.unwrap().len(), 2, "a refused close leaves no version behind");
    store.close_round(round, pattern, as_seen(&store, round, 1).await, Some(&version), once).await.unwrap();
    assert_eq!(store.round(round).await.unwrap().made_version, Some(3));
    assert!(matches!(store.observe(round, &seen, Utc::now(), once).await, Err(StoreError::Refused(_))));

    let next = store
        .open_round(order, &NewRound { version_id: second, stage: RoundStage::Toile, worn: "".into() }, once)
        .await
        .unwrap();
    store.mark(next, observed, Mark::Better, None, Once::by(person)).await.unwrap();
    store.mark(next, observed, Mark::Gone, None, Once::by(person)).await.unwrap();
    let own = store.observe(next, &seen, Utc::now(), once).await.unwrap();
    assert!(
        matches!(
            store.mark(next, own, Mark::Gone, None, Once::by(person)).await,
            Err(StoreError::Refused(_))
        ),
        "not its own"
    );
    let told = store.observations(order).await.unwrap();
    assert_eq!(told[0].marks.iter().map(|m| (m.round, m.mark)).collect::<Vec<_>>(), [(2, Mark::Gone)]);
}

#[tokio::test]
async fn a_sign_in_lasts_until_it_is_ended_or_over_or_was_left_unused() {
    let (store, db, person) = store().await;
    let token = [7u8; 32];
    let is_in = async || store.signed_in(&token).await.unwrap().map(|p| p.id) == Some(person);
    let aged = |by: &str| {
        db.ask(&format!(
            "UPDATE sign_ins SET created_at = created_at - INTERVAL {by}, expires_at = expires_at - INTERVAL {by}"
        ))
    };
    store.sign_in(&token, person, "").await.unwrap();
    assert!(is_in().await);
    store.sign_out(&token).await.unwrap();
    assert!(!is_in().await);

    // Used every three days it lasts for fourteen in all.
    store.sign_in(&token, person, "").await.unwrap();
    for days in [3, 6, 9, 12] {
        aged("3 DAY");
        assert!(is_in().await, "after {days} days");
    }
    aged("47 HOUR");
    assert!(is_in().await, "an hour before the end");
    aged("61 MINUTE");
    assert!(!is_in().await, "after fourteen days");

    // Unused it lasts for four days.
    store.sign_in(&[8; 32], person, "").await.unwrap();
    aged("95 HOUR");
    assert!(store.signed_in(&[8; 32]).await.unwrap().is_some());
    store.sign_in(&[9; 32], person, "").await.unwrap();
    aged("97 HOUR");
    assert!(store.signed_in(&[9; 32]).await.unwrap().is_none());
}

#[tokio::test]
async fn a_card_keeps_its_figures_and_a_drawn_size_its_geometry() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let figures: PatternMeasures =
        [(PatternMeasure::Bust, 950.5), (PatternMeasure::Waist, 710.25)].into_iter().collect();
    let card = NewBlock {
        name: "Card".into(),
        how: How::Card,
        method: None,
        sizes: vec![BlockSize::card("12", Body::default(), figures.clone())],
        ..block()
    };
    let id = store.add_block(&card, once).await.unwrap();
    let read = store.block(id).await.unwrap();
    assert_eq!((read.summary.how, read.method, read.sizes[0].figures()), (How::Card, None, figures));
    let drawn = store.add_block(&block(), once).await.unwrap();
    assert_eq!(store.block(drawn).await.unwrap().sizes, block().sizes);
    let listed = store.blocks(None).await.unwrap();
    assert_eq!(listed.iter().map(|row| row.how).collect::<Vec<_>>(), [How::Drafted, How::Card]);
    assert_eq!(listed[0].sizes, ["12"]);
}

/// A house that drafted skirts before the column was there has skirts after it: the migration is run on its rows.
#[tokio::test]
async fn blocks_from_before_the_column_are_of_the_garment_they_are() {
    let (store, db, person) = store().await;
    let once = Once::by(person);
    let skirt = Method { kind: MethodKind::Skirt, ..Method::default() };
    let body: Body =
        [("waist_girth", 700.0), ("hip_girth", 960.0), ("waist_to_hip", 205.0)].into_iter().collect();
    let pattern = draft(&body, &skirt, Style::TENTHS).unwrap().pattern;
    let card = |figures: &[PatternMeasure]| {
        let figures = figures.iter().map(|figure| (*figure, 900.0)).collect();
        vec![BlockSize::card("12", Body::default(), figures)]
    };
    use PatternMeasure as F;
    let mut ids = Vec::new();
    for (name, sizes, garment) in [
        ("Bodice", block().sizes, Garment::Bodice),
        ("Skirt", vec![BlockSize::drawn("own", body, pattern)], Garment::Skirt),
        ("Card of a dress", card(&[F::Bust, F::Waist, F::Hip]), Garment::Bodice),
        ("Card of a skirt", card(&[F::Waist, F::Hip]), Garment::Skirt),
    ] {
        let id = store.add_block(&NewBlock { name: name.into(), sizes, ..block() }, once).await.unwrap();
        assert_eq!(store.block(id).await.unwrap().summary.garment, garment, "{name}, as it is kept");
        ids.push((name, id, garment));
    }
    let pool = sqlx::MySqlPool::connect(&db.url()).await.unwrap();
    sqlx::raw_sql("ALTER TABLE blocks DROP COLUMN garment").execute(&pool).await.unwrap();
    sqlx::raw_sql(include_str!("../../migrations/20261128160000_garment_of_a_block.sql"))
        .execute(&pool)
        .await
        .unwrap();
    for (name, id, garment) in ids {
        assert_eq!(store.block(id).await.unwrap().summary.garment, garment, "{name}, from before");
    }
}

#[tokio::test]
async fn a_shelf_holds_one_of_a_name_and_changes_by_revision() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let method = Method::default();
    let id = store.put_on_shelf(Shelf::Methods, "Ours", &method, once).await.unwrap();
    let twice = store.put_on_shelf(Shelf::Methods, "Ours", &method, once).await.unwrap_err();
    assert!(matches!(twice, StoreError::Refused(_)));
    store.put_on_shelf(Shelf::Ease, "Ours", &1, once).await.unwrap();
    let other = method.with("front_share", 12.0).unwrap();
    store.change_on_shelf(Shelf::Methods, id, &other, 1, person).await.unwrap();
    let stale = store.change_on_shelf(Shelf::Methods, id, &method, 1, person).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 2, saw: 1, .. }), "{stale}");
    let kept: Vec<Kept<Method>> = store.shelf(Shelf::Methods).await.unwrap();
    assert_eq!((kept.len(), kept[0].document, kept[0].revision), (1, other, 2));
    store.take_off_shelf(Shelf::Methods, id, true, person).await.unwrap();
    assert!(store.take_off_shelf(Shelf::Methods, id, true, person).await.is_err());
    store.take_off_shelf(Shelf::Methods, id, false, person).await.unwrap();
    assert!(store.take_off_shelf(Shelf::Methods, id, false, person).await.is_err(), "it is back");
    store.take_off_shelf(Shelf::Methods, id, true, person).await.unwrap();
    assert!(store.shelf::<Method>(Shelf::Methods).await.unwrap().is_empty());
}

#[tokio::test]
async fn a_plan_is_kept_with_its_order_and_never_overwritten_unseen() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let client_id = store.add_client(&client("A. B."), once).await.unwrap();
    let order = take_order(&store, client_id, "Dress", once).await;
    let block_id = store.add_block(&block(), once).await.unwrap();
    assert_eq!(store.order_plan(order).await.unwrap(), None);
    let changes = PlanChanges { off: vec!["bust".into()], ..PlanChanges::default() };
    let plan = OrderPlan { block_id, size: "12".into(), ease_set: "standard".into(), changes, revision: 0 };
    assert_eq!(store.keep_plan(order, &plan, person).await.unwrap(), 1);
    let kept = store.order_plan(order).await.unwrap().unwrap();
    assert_eq!(kept, OrderPlan { revision: 1, ..plan.clone() });
    let stale = store.keep_plan(order, &plan, person).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 1, saw: 0, .. }), "{stale}");
    assert_eq!(store.keep_plan(order, &kept, person).await.unwrap(), 2);
}

async fn as_seen(store: &Store, round: u64, recipe: u32) -> RoundSeen {
    RoundSeen { changes: store.round_changes(round).await.unwrap(), recipe }
}

#[tokio::test]
async fn of_two_owners_who_go_at_once_one_stays() {
    let (store, _db, first) = store().await;
    for round in 0..6 {
        let email = format!("second-{round}@house.example");
        let second = store.add_person("Second", &email, "x", Role::Owner).await.unwrap();
        let revision = |people: &[PersonRow], id| people.iter().find(|row| row.id == id).unwrap().revision;
        let people = store.people().await.unwrap();
        let (one, other) = tokio::join!(
            store.leave(first, revision(&people, first), second),
            store.change_person(second, "Second", &email, Role::Reader, revision(&people, second), first),
        );
        let gone = [one.is_ok(), other.is_ok()];
        assert_eq!(gone.iter().filter(|is| **is).count(), 1, "{one:?} {other:?}");
        for refused in [one, other].into_iter().filter_map(Result::err) {
            assert!(matches!(refused, StoreError::Refused(_)), "{refused:?}");
        }
        let people = store.people().await.unwrap();
        let owners = people.iter().filter(|row| row.role == Role::Owner && row.left_at.is_none());
        assert_eq!(owners.count(), 1);
        // The first comes back, the second goes, for the next time.
        store
            .ask_in_again(first, (&[round; 32], chrono::Utc::now() + chrono::TimeDelta::hours(1)), first)
            .await
            .unwrap();
        let people = store.people().await.unwrap();
        if people.iter().any(|row| row.id == second && row.role == Role::Owner) {
            store.leave(second, revision(&people, second), first).await.unwrap();
        }
    }
}

#[tokio::test]
async fn of_two_entries_that_are_merged_crosswise_one_is_left_with_everything() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    for _ in 0..6 {
        let one = store.add_client(&client("Twice"), once).await.unwrap();
        let other = store.add_client(&client("Twice, again"), once).await.unwrap();
        take_order(&store, one, "Dress", once).await;
        take_order(&store, other, "Skirt", once).await;
        let (first, second) =
            tokio::join!(store.merge_clients(one, other, 1, once), store.merge_clients(other, one, 1, once));
        assert!(first.is_ok() ^ second.is_ok(), "{first:?} {second:?}");
        let kept = if first.is_ok() { one } else { other };
        assert_eq!(store.orders(Orders::OfClient(kept)).await.unwrap().len(), 2);
    }
}

#[tokio::test]
async fn entries_that_are_merged_one_after_the_other_are_parted_in_any_order() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let garments = async |id| store.orders(Orders::OfClient(id)).await.unwrap().len();
    for parted_first in [0, 1] {
        let mut entries = Vec::new();
        for garment in ["Dress", "Skirt", "Jacket"] {
            let id = store.add_client(&client("Three times"), once).await.unwrap();
            take_order(&store, id, garment, once).await;
            entries.push(id);
        }
        let [first, second, third] = entries[..] else { unreachable!() };
        store.merge_clients(second, first, 1, once).await.unwrap();
        store.merge_clients(third, second, 1, once).await.unwrap();
        assert_eq!(garments(third).await, 3);
        for entry in if parted_first == 0 { [first, second] } else { [second, first] } {
            store.part_clients(entry, once).await.unwrap();
        }
        assert_eq!((garments(first).await, garments(second).await, garments(third).await), (1, 1, 1));
    }
    // Erased, nothing of any of them is left, however they came together.
    let mut entries = Vec::new();
    for _ in 0..3 {
        entries.push(store.add_client(&client("Erased"), once).await.unwrap());
    }
    let [first, second, third] = entries[..] else { unreachable!() };
    store.merge_clients(second, first, 1, once).await.unwrap();
    store.merge_clients(third, second, 1, once).await.unwrap();
    let of_all = ChangesOf { client: Some(third), ..ChangesOf::default() };
    assert!(store.changes(of_all, 20).await.unwrap().len() >= 5, "what was noted of each is told of her");
    store.erase_client(third, &[], once).await.unwrap();
    assert!(
        store.part_clients(first, once).await.is_err() && store.part_clients(second, once).await.is_err()
    );
}

#[tokio::test]
async fn of_two_who_begin_a_pattern_anew_at_once_each_has_one_and_one_is_in_hand() {
    let (store, _db, person) = store().await;
    let once = Once::by(person);
    let client_id = store.add_client(&client("Anew"), once).await.unwrap();
    let order = take_order(&store, client_id, "Dress", once).await;
    let block_id = store.add_block(&block(), once).await.unwrap();
    let geometry = block().sizes[0].pattern().unwrap().clone();
    let recipe = Recipe::default();
    let new = NewPattern { block_id, block_name: "House, 12", block: &geometry, recipe: &recipe };
    let first = store.begin_pattern(order, new, false, once).await.unwrap();
    let (one, other) = tokio::join!(
        store.begin_pattern(order, new, true, once),
        store.begin_pattern(order, new, true, once)
    );
    let (one, other) = (one.unwrap(), other.unwrap());
    let kept = store.patterns(order).await.unwrap();
    assert_eq!(kept.len(), 3);
    assert_eq!(kept.iter().filter(|each| each.in_hand).count(), 1);
    // Versions of all of them have one row of numbers, saved at once too.
    let version = NewVersion { recipe: recipe.clone(), pattern: geometry.clone(), why: String::new() };
    let (a, b, c) = tokio::join!(
        store.add_version(first, &version, once),
        store.add_version(one, &version, once),
        store.add_version(other, &version, once)
    );
    let mut numbers = Vec::new();
    for id in [a.unwrap(), b.unwrap(), c.unwrap()] {
        numbers.push(store.version(id).await.unwrap().version);
    }
    numbers.sort_unstable();
    assert_eq!((numbers, store.next_version(first).await.unwrap()), (vec![1, 2, 3], 4));
}

/// A database that wants TLS is spoken to by TLS, with its certificate looked at; a line without it is turned down.
#[tokio::test]
async fn a_database_elsewhere_is_spoken_to_by_tls() {
    use yardwand_devdb::{DevDb, free_port};
    let home = std::env::temp_dir().join(format!("yardwand-tls-{}", std::process::id()));
    std::fs::create_dir_all(&home).unwrap();
    let made = rcgen::generate_simple_self_signed(vec!["127.0.0.1".to_owned()]).unwrap();
    let (certificate, key) = (home.join("server.pem"), home.join("server.key"));
    std::fs::write(&certificate, made.cert.pem()).unwrap();
    std::fs::write(&key, made.signing_key.serialize_pem()).unwrap();
    let options = [format!("--ssl-cert={}", certificate.display()), format!("--ssl-key={}", key.display())];
    let db = DevDb::start_with(&home.join("db"), free_port().unwrap(), &options).unwrap();
    let url = db.database("house").unwrap();
    let sql =
        "CREATE USER tls@127.0.0.1 IDENTIFIED BY 'pins' REQUIRE SSL; GRANT ALL ON house.* TO tls@127.0.0.1";
    db.run_in("mysql", sql).unwrap();
    let url = url.replace("yardwand:yardwand@", "tls:pins@");
    let store = async |how: &str| Store::connect(&format!("{url}{how}")).await;
    assert!(store("").await.is_err(), "plainly on this machine, as the URL says nothing");
    store("?ssl-mode=REQUIRED").await.unwrap().migrate().await.unwrap();
    let known = format!("?ssl-mode=VERIFY_IDENTITY&ssl-ca={}", certificate.display());
    store(&known).await.unwrap().ping().await.unwrap();
    assert!(store("?ssl-mode=VERIFY_IDENTITY").await.is_err(), "nobody vouches for it");
    drop(db);
    let _ = std::fs::remove_dir_all(home);
}
