//! The calendar's keeping, on a real MariaDB: visits by revision, days taken, letters written and sent once.

use crate::common::{client, store, take_order};
use chrono::{Days, NaiveDate, Utc};
use yardwand_core::fitting::{Away, Booked, PlannedVisit, Visit, VisitKind};
use yardwand_devdb::TestDb;
use yardwand_store::{NewLetter, Once, PutAway, Store, StoreError};

struct House {
    store: Store,
    _db: TestDb,
    person: u64,
    client: u64,
}

impl House {
    async fn new() -> Self {
        let (store, db, person) = store().await;
        let client = store.add_client(&client("A. B."), Once::by(person)).await.unwrap();
        Self { store, _db: db, person, client }
    }

    fn once(&self) -> Once<'_> {
        Once::by(self.person)
    }

    async fn order(&self, garment: &str) -> u64 {
        take_order(&self.store, self.client, garment, self.once()).await
    }

    async fn revision(&self, order: u64) -> u32 {
        self.store.order(order).await.unwrap().order.revision
    }

    async fn set(&self, order: u64, visits: &[PlannedVisit]) {
        let revision = self.revision(order).await;
        self.store.set_visits(order, visits, revision, self.once()).await.unwrap();
    }

    async fn dated(&self, order: u64) -> Vec<(VisitKind, u32, NaiveDate)> {
        let rows = self.store.visits_of(order).await.unwrap();
        rows.into_iter().map(|r| (r.planned.visit.kind, r.planned.visit.number, r.planned.on)).collect()
    }
}

fn today() -> NaiveDate {
    Utc::now().date_naive()
}

fn on(kind: VisitKind, number: u32, days: u64) -> PlannedVisit {
    let visit = Visit { kind, number };
    PlannedVisit { visit, name: visit.name(), on: today() + Days::new(days), settled: false }
}

fn letter(visit_id: u64, on_day: NaiveDate, address: &str) -> NewLetter {
    NewLetter {
        visit_id,
        on_day,
        to_name: "A. B.".into(),
        to_address: address.into(),
        subject: "Toile".into(),
        body: "Please bring the shoes.".into(),
    }
}

#[tokio::test]
async fn dates_replace_those_before_and_only_by_the_revision_that_was_seen() {
    let house = House::new().await;
    let order = house.order("Dress").await;
    house
        .set(order, &[on(VisitKind::Cutting, 1, 3), on(VisitKind::Toile, 1, 5), on(VisitKind::Toile, 2, 9)])
        .await;
    house.set(order, &[on(VisitKind::Cutting, 1, 3), on(VisitKind::Toile, 1, 7)]).await;
    let day = |days| today() + Days::new(days);
    assert_eq!(house.dated(order).await, [(VisitKind::Cutting, 1, day(3)), (VisitKind::Toile, 1, day(7))]);
    let late = house.store.set_visits(order, &[], 1, house.once()).await.unwrap_err();
    assert!(matches!(late, StoreError::Stale { .. }), "{late}");
    assert_eq!(house.dated(order).await.len(), 2);
    let late = house.store.change_wish(order, Some(day(40)), 3, 1, house.person).await.unwrap_err();
    assert!(matches!(late, StoreError::Stale { .. }), "{late}");
}

#[tokio::test]
async fn a_day_counts_who_comes_from_other_garments_and_not_what_is_cut() {
    let house = House::new().await;
    let (first, second) = (house.order("Dress").await, house.order("Coat").await);
    house.set(first, &[on(VisitKind::Cutting, 1, 4), on(VisitKind::Toile, 1, 6)]).await;
    house.set(second, &[on(VisitKind::Measuring, 1, 6), on(VisitKind::Toile, 1, 6)]).await;
    let day = today() + Days::new(6);
    assert_eq!(house.store.booked(today(), first).await.unwrap(), [Booked { on: day, count: 2 }]);
    assert_eq!(house.store.booked(today(), second).await.unwrap(), [Booked { on: day, count: 1 }]);
    assert_eq!(house.store.booked(day + Days::new(1), second).await.unwrap(), []);
}

#[tokio::test]
async fn days_away_are_kept_once_and_taken_out_again() {
    let house = House::new().await;
    let away = |from: u64, to: u64| Away {
        from: today() + Days::new(from),
        to: today() + Days::new(to),
        why: "tour".into(),
    };
    let days = [away(3, 5), away(20, 20)];
    assert_eq!(house.store.add_away(house.client, &days, house.once()).await.unwrap(), 2);
    assert_eq!(house.store.add_away(house.client, &days[..1], house.once()).await.unwrap(), 0);
    let kept = house.store.away(house.client).await.unwrap();
    assert_eq!(kept.iter().map(|row| row.away.clone()).collect::<Vec<_>>(), days);
    house.store.drop_away(kept[0].id, house.person).await.unwrap();
    assert_eq!(house.store.away(house.client).await.unwrap().len(), 1);
    let gone = house.store.drop_away(kept[0].id, house.person).await.unwrap_err();
    assert!(matches!(gone, StoreError::NotFound { .. }), "{gone}");
    let unknown = house.store.add_away(999, &days, house.once()).await.unwrap_err();
    assert!(matches!(unknown, StoreError::NotFound { .. }), "{unknown}");
}

#[tokio::test]
async fn a_visit_that_moves_gets_another_letter_and_one_that_stays_does_not() {
    let house = House::new().await;
    let order = house.order("Dress").await;
    house.set(order, &[on(VisitKind::Toile, 1, 2)]).await;
    let visit = async || house.store.visits_of(order).await.unwrap()[0].clone();
    let write = async || {
        let visit = visit().await;
        house.store.write_letters(&[letter(visit.id, visit.planned.on, "a@b.example")]).await.unwrap()
    };
    assert_eq!((write().await, write().await), (1, 0));
    house.set(order, &[on(VisitKind::Toile, 1, 2), on(VisitKind::Toile, 2, 8)]).await;
    assert_eq!(write().await, 0, "it stayed where it was, with its number");
    house.set(order, &[on(VisitKind::Toile, 1, 4)]).await;
    assert_eq!(write().await, 1);
}

#[tokio::test]
async fn a_letter_is_taken_by_one_server_and_tried_again_later() {
    let house = House::new().await;
    let order = house.order("Dress").await;
    house.set(order, &[on(VisitKind::Toile, 1, 2), on(VisitKind::Toile, 2, 9)]).await;
    let rows = house.store.visits_of(order).await.unwrap();
    let past = today() - Days::new(1);
    let letters = [
        letter(rows[0].id, today() + Days::new(2), "a@b.example"),
        letter(rows[1].id, today() + Days::new(9), ""),
        letter(rows[1].id, past, "a@b.example"),
    ];
    house.store.write_letters(&letters).await.unwrap();
    let taken = house.store.letter_to_send(14).await.unwrap().unwrap();
    assert_eq!(taken.letter, letters[0]);
    assert_eq!(
        house.store.letter_to_send(14).await.unwrap(),
        None,
        "no address, a day that is past, or taken"
    );
    house.store.letter_went(taken.id, Some("the mail server could not be reached")).await.unwrap();
    let again = house.store.letter_to_send(0).await.unwrap().unwrap();
    assert_eq!((again.id, again.failed.as_str()), (taken.id, "the mail server could not be reached"));
    house.store.letter_went(taken.id, None).await.unwrap();
    assert_eq!(house.store.letter_to_send(0).await.unwrap(), None, "sent once");
    let kept = house.store.letters(10).await.unwrap().into_iter().find(|row| row.id == taken.id).unwrap();
    assert!(kept.sent_at.is_some() && kept.failed.is_empty());
}

#[tokio::test]
async fn a_letter_goes_only_where_its_visit_still_is() {
    let house = House::new().await;
    let order = house.order("Dress").await;
    house.set(order, &[on(VisitKind::Toile, 1, 2)]).await;
    let visit = house.store.visits_of(order).await.unwrap().remove(0);
    let waiting = letter(visit.id, visit.planned.on, "a@b.example");
    house.store.write_letters(std::slice::from_ref(&waiting)).await.unwrap();
    let put_away = async |why| {
        let saw = house.store.order(order).await.unwrap().order.revision;
        house.store.put_away(order, why, saw, house.person).await.unwrap();
    };
    put_away(Some(PutAway::Cancelled)).await;
    assert_eq!(house.store.letter_to_send(0).await.unwrap(), None, "the garment is cancelled");
    put_away(None).await;
    house.set(order, &[on(VisitKind::Toile, 1, 5)]).await;
    assert_eq!(house.store.letter_to_send(0).await.unwrap(), None, "the visit has moved");
    house.set(order, &[on(VisitKind::Toile, 1, 2)]).await;
    assert_eq!(house.store.letter_to_send(0).await.unwrap().map(|row| row.letter), Some(waiting));
}
