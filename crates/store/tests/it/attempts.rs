//! Attempts to sign in are counted as many as they are, wait for longer each time, and never for ever.

use sqlx::mysql::MySqlPool;
use yardwand_store::{Attempt, Store};

use crate::common::store;

const FREELY: i64 = 5;

async fn seconds(store: &Store, of: &str) -> Option<u32> {
    match store.attempt(of, FREELY).await.unwrap() {
        Attempt::Goes => None,
        Attempt::Waits { seconds } => Some(seconds),
    }
}

#[tokio::test]
async fn at_once_they_count_as_many_as_they_are() {
    let (store, _db, _) = store().await;
    let mut all = tokio::task::JoinSet::new();
    for _ in 0..40 {
        let store = store.clone();
        all.spawn(async move { seconds(&store, "m@house.example").await });
    }
    let waits = all.join_all().await;
    assert_eq!(waits.iter().filter(|wait| wait.is_none()).count(), 5, "{waits:?}");
    assert!(waits.iter().flatten().all(|wait| (1..=10).contains(wait)), "{waits:?}");
    assert_eq!(seconds(&store, "somebody@else.example").await, None, "nobody else waits");
}

#[tokio::test]
async fn each_waits_twice_as_long_and_a_good_one_forgets_them() {
    let (store, db, _) = store().await;
    let pool = MySqlPool::connect(&db.url()).await.unwrap();
    let pass = async |seconds: u32| {
        sqlx::query("UPDATE attempts SET newest = newest - INTERVAL ? SECOND")
            .bind(seconds)
            .execute(&pool)
            .await
            .unwrap();
    };
    for _ in 0..5 {
        assert_eq!(seconds(&store, "m@house.example").await, None);
    }
    for longest in [10, 20, 40, 80, 160, 320, 640, 900] {
        let wait = seconds(&store, "m@house.example").await.expect("it waits");
        assert!((longest - 5..=longest).contains(&wait), "{wait} of {longest}");
        assert!(seconds(&store, "m@house.example").await.unwrap() <= wait, "asking again makes it no longer");
        // To the last but one second, and then that one. The longest wait forgets them all.
        pass(wait - 1).await;
        assert!(seconds(&store, "m@house.example").await.is_some() || longest == 900);
        pass(2).await;
        assert_eq!(seconds(&store, "m@house.example").await, None, "after {longest}");
    }
    for _ in 0..9 {
        let _ = seconds(&store, "m@house.example").await;
    }
    assert!(seconds(&store, "m@house.example").await.is_some());
    store.forget_attempts("m@house.example").await.unwrap();
    for _ in 0..5 {
        assert_eq!(seconds(&store, "m@house.example").await, None);
    }
    assert!(seconds(&store, "m@house.example").await.is_some());
    store.take_back_attempt("m@house.example").await.unwrap();
    assert_eq!(seconds(&store, "m@house.example").await, None, "one that was none makes room for another");
}

/// A device is known for whoever signed in on it, until the password is another.
#[tokio::test]
async fn a_device_is_known_until_the_password_changes() {
    let (store, _db, person) = store().await;
    let (device, other) = ([7; 32], [8; 32]);
    assert!(!store.knows_device(&device, Some("m@house.example")).await.unwrap());
    store.know_device(&device, person).await.unwrap();
    store.know_device(&device, person).await.unwrap();
    assert!(store.knows_device(&device, Some("m@house.example")).await.unwrap());
    assert!(store.knows_device(&device, None).await.unwrap());
    assert!(!store.knows_device(&other, None).await.unwrap());
    assert!(!store.knows_device(&device, Some("n@house.example")).await.unwrap());
    store.change_password(person, "another hash", &[9; 32]).await.unwrap();
    assert!(!store.knows_device(&device, Some("m@house.example")).await.unwrap());
}
