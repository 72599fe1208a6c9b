//! What every test of the store begins with: a database of its own, its owner, a client and an order.

use yardwand_devdb::TestDb;
use yardwand_store::{NewClient, NewOrder, Once, Role, Store};

/// A store on an empty database, the database, and its owner.
pub(crate) async fn store() -> (Store, TestDb, u64) {
    store_of("M").await
}

/// The same with an owner of this name.
pub(crate) async fn store_of(owner: &str) -> (Store, TestDb, u64) {
    let db = TestDb::new();
    let store = Store::connect(&db.url()).await.unwrap();
    store.migrate().await.unwrap();
    let person = store.add_person(owner, "m@house.example", "x", Role::Owner).await.unwrap();
    (store, db, person)
}

/// A client of whom nothing is known but her name.
pub(crate) fn client(name: &str) -> NewClient {
    NewClient { name: name.into(), contact: String::new(), notes: String::new(), consent: None }
}

/// An order taken for a client.
pub(crate) async fn take_order(store: &Store, client_id: u64, garment: &str, once: Once<'_>) -> u64 {
    let order = NewOrder {
        client_id,
        garment: garment.into(),
        set_code: "bodice_direct".into(),
        set_name: String::new(),
        set_codes: Vec::new(),
        wanted_on: None,
        toiles: 2,
    };
    store.add_order(&order, once).await.unwrap()
}
