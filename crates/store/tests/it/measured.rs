//! What is kept of measuring: sides and repeats, sets and forms, tapes, imports, posture, erasing. On a real MariaDB.

use crate::common::{client, store_of};
use chrono::NaiveDate;
use yardwand_core::body::{
    Body, FormMarking, Halving, LineHeights, MarkedLine, Side, Taken, measurement_set,
};
use yardwand_core::{Length, Unit};
use yardwand_devdb::TestDb;
use yardwand_store::{
    Backdated, ChangesOf, FormRow, ImportState, ImportedClient, ImportedSession, NewConsent, NewReading,
    NewSession, Once, Posture, SetRow, Store, StoreError,
};

struct Kept {
    store: Store,
    person: u64,
    client: u64,
    _db: TestDb,
}

impl Kept {
    async fn new() -> Self {
        let (store, db, person) = store_of("Mona").await;
        let client = store.add_client(&client("Ada"), Once::by(person)).await.unwrap();
        Self { store, person, client, _db: db }
    }

    fn once(&self) -> Once<'static> {
        Once::by(self.person)
    }

    async fn session(&self) -> u64 {
        let codes = &measurement_set("dress").unwrap().codes;
        let new = NewSession {
            client: self.client,
            order: None,
            set_code: "dress",
            set_name: "Dress",
            codes,
            unit: Unit::Inch,
        };
        self.store.open_session(new, self.once()).await.unwrap()
    }

    async fn record(&self, session: u64, reading: NewReading) -> Result<u64, StoreError> {
        self.store.record(session, &reading, self.once()).await
    }

    async fn latest(&self) -> Vec<(String, Side, f64)> {
        let rows = self.store.latest_readings(self.client, None).await.unwrap();
        rows.into_iter().map(|row| (row.code, row.side, row.entered.length.mm())).collect()
    }
}

fn reading(code: &str, text: &str) -> NewReading {
    NewReading::plain(code, Length::read(text, Unit::Inch).unwrap())
}

fn of_side(side: Side, text: &str) -> NewReading {
    NewReading { side, ..reading("shoulder_length", text) }
}

#[tokio::test]
async fn a_side_is_corrected_without_touching_the_other() {
    let kept = Kept::new().await;
    let session = kept.session().await;
    kept.record(session, of_side(Side::Left, "5")).await.unwrap();
    kept.record(session, of_side(Side::Right, "4 3/4")).await.unwrap();
    kept.record(session, of_side(Side::Left, "5 1/8")).await.unwrap();
    let latest = kept.latest().await;
    let sides: Vec<_> = latest.iter().map(|(_, side, mm)| (*side, (mm / 25.4 * 8.0).round())).collect();
    assert_eq!(sides, [(Side::Right, 38.0), (Side::Left, 41.0)], "4 3/4 and 5 1/8 in eighths");
    let all = kept.store.readings(session).await.unwrap();
    assert_eq!(all.iter().map(|row| row.replaced).collect::<Vec<_>>(), [true, false, false]);
}

#[tokio::test]
async fn ease_inside_a_reading_is_taken_off_and_what_was_typed_stays() {
    let kept = Kept::new().await;
    let session = kept.session().await;
    let taken = Taken { ease_mm: 50.8, ..Taken::default() };
    kept.record(session, NewReading { taken: taken.clone(), ..reading("bust_girth", "40") }).await.unwrap();
    let row = kept.store.readings(session).await.unwrap().remove(0);
    assert!((row.entered.length.mm() - 965.2).abs() < 1e-9);
    assert_eq!((row.entered.typed.as_str(), row.taken), ("40", taken));
}

#[tokio::test]
async fn repeats_of_one_measurer_are_together_by_body_and_side() {
    let kept = Kept::new().await;
    for takes in [["28", "28 1/4"], ["29", "28 7/8"]] {
        let session = kept.session().await;
        for (place, text) in takes.iter().enumerate() {
            let again = place > 0;
            kept.record(session, NewReading { again, ..reading("waist_girth", text) }).await.unwrap();
        }
        kept.record(session, reading("bust_girth", "37")).await.unwrap();
    }
    let repeats = kept.store.repeats().await.unwrap();
    let expected = [vec![711.2, 717.55], vec![736.6, 733.425]];
    assert_eq!(repeats.len(), 2, "a single take says nothing: {repeats:?}");
    for ((measurer, code, takes), wanted) in repeats.iter().zip(expected) {
        assert_eq!((measurer.as_str(), code.as_str()), ("Mona", "waist_girth"));
        assert!(takes.iter().zip(&wanted).all(|(a, b)| (a - b).abs() < 1e-4), "{takes:?}");
    }
}

#[tokio::test]
async fn whoever_comes_second_is_told_by_whom() {
    let kept = Kept::new().await;
    let session = kept.session().await;
    let first =
        kept.record(session, NewReading { saw: Some(0), ..reading("bust_girth", "37") }).await.unwrap();
    let late =
        kept.record(session, NewReading { saw: Some(0), ..reading("bust_girth", "38") }).await.unwrap_err();
    assert!(matches!(&late, StoreError::Overtaken { by, typed } if by == "Mona" && typed == "37"), "{late}");
    kept.record(session, NewReading { saw: Some(first), ..reading("bust_girth", "38") }).await.unwrap();
}

#[tokio::test]
async fn every_change_of_a_session_is_counted_and_a_retry_is_none() {
    let kept = Kept::new().await;
    let session = kept.session().await;
    let key = Once::keyed(kept.person, Some("one-and-the-same"));
    let counted = async || kept.store.session_changes(session).await.unwrap();
    kept.store.record(session, &reading("bust_girth", "37"), key).await.unwrap();
    kept.store.record(session, &reading("bust_girth", "37"), key).await.unwrap();
    assert_eq!(counted().await, 1);
    kept.store.skip(session, "hip_girth", "she sits", kept.once()).await.unwrap();
    kept.store.close_session(session, "Mona", kept.once()).await.unwrap();
    assert_eq!(counted().await, 3);
    let row = kept.store.session(session).await.unwrap();
    assert_eq!(row.signed.as_deref(), Some("Mona"));
    assert!(kept.record(session, reading("bust_girth", "38")).await.is_err(), "closed");
}

/// The newest few sessions are read whole, the others only for what those lack: both must agree with reading it all.
#[tokio::test]
async fn the_newest_figure_is_found_however_long_ago() {
    let kept = Kept::new().await;
    for age in (1..=14).rev() {
        let session = kept.session().await;
        let inches = format!("{}", 30 + age);
        kept.record(session, reading("bust_girth", &inches)).await.unwrap();
        if age == 14 {
            kept.record(session, reading("height", "65")).await.unwrap();
        }
        if age == 9 {
            kept.record(session, of_side(Side::Left, "5")).await.unwrap();
        }
        let at = chrono::Utc::now() - chrono::TimeDelta::days(age * 30);
        kept.store.backdate(Backdated::Session(session), at).await.unwrap();
    }
    let latest = kept.latest().await;
    let mm = |code: &str| latest.iter().find(|(found, _, _)| found == code).map(|(_, _, mm)| *mm);
    assert_eq!(
        (mm("bust_girth"), mm("height"), mm("shoulder_length")),
        (Some(31.0 * 25.4), Some(1651.0), Some(127.0))
    );
    // Before a session of the middle, only what is older counts.
    let sessions = kept.store.sessions(kept.client).await.unwrap();
    let before = kept.store.latest_readings(kept.client, Some(&sessions[9])).await.unwrap();
    let bust = before.iter().find(|row| row.code == "bust_girth").unwrap();
    assert!((bust.entered.length.mm() - 41.0 * 25.4).abs() < 1e-9, "{bust:?}");
    assert!(before.iter().all(|row| row.code != "shoulder_length"), "that was taken later");
}

#[tokio::test]
async fn a_set_and_a_form_come_back_as_they_were_saved_and_know_their_revision() {
    let kept = Kept::new().await;
    let set = SetRow { id: 0, name: "Waistcoat".into(), codes: vec!["waist_girth".into()], revision: 0 };
    let id = kept.store.save_set(&set, kept.once()).await.unwrap();
    assert_eq!(kept.store.house_sets().await.unwrap(), [SetRow { id, revision: 1, ..set.clone() }]);
    let twin = kept.store.save_set(&set, kept.once()).await.unwrap_err();
    assert!(matches!(twin, StoreError::Refused(_)));
    let changed = SetRow { id, revision: 1, name: "Vest".into(), ..set };
    kept.store.save_set(&changed, kept.once()).await.unwrap();
    let stale = kept.store.save_set(&changed, kept.once()).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 2, saw: 1, .. }), "{stale}");
    kept.store.drop_set(id, kept.once()).await.unwrap();
    assert!(matches!(kept.store.drop_set(id, kept.once()).await, Err(StoreError::NotFound { .. })));

    let line = LineHeights { front: Some(1040.25), back: Some(1027.0), ..LineHeights::default() };
    let form = FormRow {
        id: 0,
        name: "Linen".into(),
        figures: Body::default().with("bust_girth", 901.7),
        levels: vec![
            ("waist".into(), MarkedLine { below: None, at: line }),
            ("hip".into(), MarkedLine { below: Some("waist".into()), at: line }),
        ],
        marking: FormMarking {
            tape_width: Some(12.7),
            bridged: Some(false),
            centre: vec![Halving { line: "waist".into(), across: 361.95, off: Some(-1.5) }],
        },
        revision: 0,
    };
    let id = kept.store.save_form(&form, kept.once()).await.unwrap();
    assert_eq!(kept.store.form(id).await.unwrap(), FormRow { id, revision: 1, ..form.clone() });
    let stale = kept.store.save_form(&FormRow { id, revision: 7, ..form }, kept.once()).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 1, saw: 7, .. }));
}

#[tokio::test]
async fn a_tape_speaks_for_one_session_and_a_hold_is_remembered_by_its_word() {
    let kept = Kept::new().await;
    let session = kept.session().await;
    let token = [7_u8; 32];
    assert!(!kept.store.tape_says(&token, "36", Unit::Inch, false).await.unwrap(), "not paired");
    kept.store.pair_tape(session, &token).await.unwrap();
    for (text, held) in [("36", false), ("36 1/2", true), ("36 5/8", false)] {
        assert!(kept.store.tape_says(&token, text, Unit::Inch, held).await.unwrap());
    }
    let tape = kept.store.tape(session).await.unwrap().unwrap();
    assert_eq!((tape.seq, tape.held_seq, tape.typed.as_str()), (3, 2, "36 5/8"));
    // Another tape takes its place; the first is let go.
    kept.store.pair_tape(session, &[8_u8; 32]).await.unwrap();
    assert!(!kept.store.tape_says(&token, "37", Unit::Inch, true).await.unwrap());
    kept.store.close_session(session, "Mona", kept.once()).await.unwrap();
    assert_eq!(kept.store.tape(session).await.unwrap(), None, "a closed session has no tape");
}

fn day(text: &str) -> NaiveDate {
    text.parse().unwrap()
}

fn brought(client: ImportedClient, on: &str, text: &str) -> ImportedSession {
    ImportedSession {
        client,
        taken_on: day(on),
        unit: Unit::Inch,
        readings: vec![reading("bust_girth", text)],
    }
}

#[tokio::test]
async fn an_import_finds_or_makes_its_clients_and_undoing_it_leaves_the_others() {
    let kept = Kept::new().await;
    let import = kept.store.add_import("book.csv", "Ada,37", kept.once()).await.unwrap();
    assert!(kept.store.begin_import(import, 2, kept.person).await.unwrap());
    assert!(!kept.store.begin_import(import, 2, kept.person).await.unwrap(), "only one saves it");
    assert_eq!(kept.store.jobs().await.unwrap().len(), 1, "as one piece of long work");
    let (ada, nora) = (ImportedClient::Known(kept.client), ImportedClient::New("Nora".into()));
    let sessions = [brought(ada, "2024-02-03", "37"), brought(nora, "2024-02-03", "36")];
    assert!(kept.store.import_sessions(import, &sessions, kept.person).await.unwrap());
    assert_eq!(kept.store.import(import).await.unwrap().done, 2);
    assert_eq!(kept.store.clients("Nora", false, None, 9).await.unwrap().len(), 1);
    // Whoever goes on with it finds what is saved, and reads the file as it was read at first.
    assert!(kept.store.import_sessions(import, &sessions, kept.person).await.unwrap());
    assert_eq!(kept.store.import(import).await.unwrap().done, 2, "nothing is there twice");
    assert!(kept.store.figures_but_of(import, kept.client).await.unwrap().is_empty());
    assert!(kept.store.everyone_but_of(import).await.unwrap().iter().all(|(_, name, _)| name == "Ada"));
    let known = kept.store.figures_but_of(import + 1, kept.client).await.unwrap();
    assert_eq!(known.len(), 1);
    assert_eq!((known[0].0, known[0].1.as_str()), (day("2024-02-03"), "bust_girth"));
    // Given up half-way: no more is taken, and what was is taken back.
    kept.store.move_import(import, ImportState::Running, ImportState::Stopping).await.unwrap();
    let zoe = [brought(ImportedClient::New("Zoe".into()), "2024-02-03", "35")];
    assert!(!kept.store.import_sessions(import, &zoe, kept.person).await.unwrap());
    kept.store.undo_import(import).await.unwrap();
    kept.store.move_import(import, ImportState::Stopping, ImportState::Cancelled).await.unwrap();
    let row = kept.store.import(import).await.unwrap();
    assert_eq!(
        (row.state, row.done, row.content.as_str()),
        (ImportState::Cancelled, 0, ""),
        "the file is not kept"
    );
    assert!(kept.store.clients("Nora", false, None, 9).await.unwrap().is_empty());
    assert_eq!(kept.store.client(kept.client).await.unwrap().name, "Ada");
    assert!(kept.latest().await.is_empty());
}

#[tokio::test]
async fn a_mapping_is_remembered_by_its_headings() {
    let kept = Kept::new().await;
    let (one, other) = ([1_u8; 32], [2_u8; 32]);
    assert_eq!(kept.store.remembered_mapping(&one).await.unwrap(), None);
    kept.store.remember_mapping(&one, "{\"a\": 1}").await.unwrap();
    kept.store.remember_mapping(&one, "{\"a\": 2}").await.unwrap();
    assert_eq!(kept.store.remembered_mapping(&one).await.unwrap().as_deref(), Some("{\"a\": 2}"));
    assert_eq!(kept.store.remembered_mapping(&other).await.unwrap(), None);
}

#[tokio::test]
async fn erasing_a_client_leaves_only_that_somebody_was_erased() {
    let kept = Kept::new().await;
    let consent = NewConsent { given_on: day("2026-01-02"), purpose: "to dress her".into(), review_on: None };
    kept.store.add_consent(kept.client, &consent, kept.once()).await.unwrap();
    let session = kept.session().await;
    kept.record(session, reading("bust_girth", "37")).await.unwrap();
    let posture = Posture { notes: vec!["Rounded back".into()], changing: true };
    kept.store.set_posture(kept.client, &posture, 1, kept.person).await.unwrap();
    assert_eq!(kept.store.posture(kept.client).await.unwrap(), posture);
    let stale = kept.store.set_posture(kept.client, &posture, 1, kept.person).await.unwrap_err();
    assert!(matches!(stale, StoreError::Stale { now: 2, saw: 1, .. }));
    kept.store.erase_client(kept.client, &[], kept.once()).await.unwrap();
    assert!(matches!(kept.store.client(kept.client).await, Err(StoreError::NotFound { .. })));
    assert!(matches!(kept.store.session(session).await, Err(StoreError::NotFound { .. })));
    assert!(kept.store.readings(session).await.unwrap().is_empty());
    let left: Vec<_> = kept
        .store
        .changes(ChangesOf { client: Some(kept.client), ..ChangesOf::default() }, 9)
        .await
        .unwrap()
        .into_iter()
        .map(|change| change.what)
        .collect();
    assert_eq!(left, ["erased"]);
    assert!(kept.store.erase_client(kept.client, &[], kept.once()).await.is_err());
}
