//! Long work in the hands of one server at a time.

use yardwand_store::{Held, Job, JobState, Once};

use crate::common::{client, store};

const ONE: [u8; 16] = [1; 16];
const OTHER: [u8; 16] = [2; 16];

#[tokio::test]
async fn work_is_taken_once_the_oldest_first_and_backups_only_where_they_have_a_place() {
    let (store, _db, person) = store().await;
    let her = store.add_client(&client("Ada"), Once::by(person)).await.unwrap();
    let backup = store.ask_job(Job::Backup, person).await.unwrap();
    let file = store.ask_job(Job::Everything(her), person).await.unwrap();
    assert_eq!(store.ask_job(Job::Everything(her), person).await.unwrap(), file, "it is in hand");
    let taken = store.take_job(ONE, false).await.unwrap().unwrap();
    assert_eq!((taken.id, taken.job, taken.asked_by, taken.begun), (file, Job::Everything(her), person, 1));
    assert_eq!(store.take_job(OTHER, false).await.unwrap(), None);
    assert_eq!(store.take_job(OTHER, true).await.unwrap().unwrap().id, backup);
    assert_eq!(store.hold_job(&taken, 1, 3).await.unwrap(), Held::Mine);
    let told = store.job(file).await.unwrap();
    assert_eq!((told.state, told.done, told.total), (JobState::Working, 1, 3));
    store.end_job(&taken, JobState::Done, None, Some("ada.zip")).await.unwrap();
    let ended = store.job(file).await.unwrap();
    assert_eq!((ended.state, ended.done, ended.client.as_deref()), (JobState::Done, 3, Some("Ada")));
    assert_ne!(store.ask_job(Job::Everything(her), person).await.unwrap(), file, "asked for anew");
}

#[tokio::test]
async fn whoever_went_away_has_lost_it_and_writes_no_more() {
    let (store, db, person) = store().await;
    let her = store.add_client(&client("Ada"), Once::by(person)).await.unwrap();
    let job = store.ask_job(Job::Everything(her), person).await.unwrap();
    let first = store.take_job(ONE, false).await.unwrap().unwrap();
    store.keep_part(&first, 0, b"of the first").await.unwrap();
    db.ask("UPDATE jobs SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND");
    let second = store.take_job(OTHER, false).await.unwrap().unwrap();
    assert_eq!((second.id, second.begun), (job, 2));
    // It comes back, too late: it neither holds the job nor ends it, and its file does not replace the other's.
    assert_eq!(store.hold_job(&first, 2, 3).await.unwrap(), Held::Lost);
    store.keep_part(&second, 0, b"of the second").await.unwrap();
    store.keep_part(&first, 0, b"of the first again").await.unwrap();
    store.end_job(&first, JobState::Failed, Some("too late"), None).await.unwrap();
    assert_eq!(store.job(job).await.unwrap().state, JobState::Working);
    store.end_job(&second, JobState::Done, None, Some("ada.zip")).await.unwrap();
    assert_eq!(store.part(job, 0).await.unwrap().as_deref(), Some(b"of the second".as_slice()));
    assert_eq!(store.part(job, 1).await.unwrap(), None);
    assert_eq!(store.everything_of(her).await.unwrap(), Some((job, "ada.zip".to_owned(), 13)));
    // The day after, its file is let go.
    db.ask("UPDATE jobs SET ended_at = ended_at - INTERVAL 25 HOUR");
    store.forget_old().await.unwrap();
    assert_eq!(store.everything_of(her).await.unwrap(), None);
    assert_eq!(store.job(job).await.unwrap().state, JobState::Done, "that it was done is known for a month");
}

#[tokio::test]
async fn what_is_to_be_given_up_is_heard_by_whoever_has_it_and_by_whoever_comes() {
    let (store, _db, person) = store().await;
    let waits = store.ask_job(Job::Backup, person).await.unwrap();
    assert!(store.stop_job(waits).await.unwrap());
    let taken = store.take_job(ONE, true).await.unwrap().unwrap();
    assert_eq!(store.hold_job(&taken, 0, 0).await.unwrap(), Held::Stopping);
    assert!(store.stop_job(waits).await.unwrap(), "twice is the same");
    store.end_job(&taken, JobState::GivenUp, None, None).await.unwrap();
    assert_eq!(store.job(waits).await.unwrap().state, JobState::GivenUp);
    assert_eq!(store.hold_job(&taken, 0, 0).await.unwrap(), Held::Lost);
}
