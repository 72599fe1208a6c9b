//! A house of its own for a test: database, server, and somebody who asks it things.
#![allow(dead_code, reason = "each test file uses its own part")]

pub(crate) mod line;
pub(crate) mod writer;

use std::net::{SocketAddr, TcpStream};
use std::sync::{Mutex, OnceLock};
use std::thread::JoinHandle;
use std::time::Duration;

use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::runtime::Runtime;
use tokio::sync::oneshot;
use ureq::http::{Response, StatusCode};
use ureq::{Agent, Body};
use yardwand_devdb::TestDb;
use yardwand_server::{
    AppState, DEMO_EMAIL, DEMO_PASSWORD, Jobs, Patience, seed_demo, seed_orchestra, serve,
};
use yardwand_store::Store;

/// Held by a test that reads what the program logs, and by those that make it log.
pub(crate) static LOG: Mutex<()> = Mutex::new(());

/// A server of a house, stopped when it is dropped.
pub(crate) struct Server {
    address: SocketAddr,
    stop: Option<oneshot::Sender<()>>,
    served: Option<JoinHandle<()>>,
}

/// What a house is filled with before its server starts.
#[derive(Clone, Copy)]
enum Filled {
    Already,
    WithDemo,
    WithOrchestra,
}

pub(crate) struct House {
    server: Server,
    // Dropped last: the server must be gone before its database.
    db: TestDb,
}

impl House {
    /// A house with the invented demo in it.
    pub(crate) fn with_demo() -> Self {
        Self::on(Filled::WithDemo, |url| (url, ())).0
    }

    /// The same with the whole orchestra.
    pub(crate) fn with_orchestra() -> Self {
        Self::on(Filled::WithOrchestra, |url| (url, ())).0
    }

    /// Seeds it once more, as a second start does.
    pub(crate) fn seed_again(&self) {
        let url = self.db.url();
        Runtime::new().unwrap().block_on(async {
            let store = Store::connect(&url).await.unwrap();
            seed_demo(&store).await.unwrap();
            seed_orchestra(&store).await.unwrap();
        });
    }

    /// A house with the demo whose server reaches its database by another way than straight.
    pub(crate) fn over<T>(way: impl FnOnce(String) -> (String, T)) -> (Self, T) {
        Self::on(Filled::WithDemo, way)
    }

    fn on<T>(filled: Filled, way: impl FnOnce(String) -> (String, T)) -> (Self, T) {
        let db = TestDb::new();
        let (url, way) = way(db.url());
        (Self { server: Server::start(url, filled), db }, way)
    }

    /// One more server of the same house.
    pub(crate) fn second_server(&self) -> Server {
        Server::start(self.db.url(), Filled::Already)
    }

    /// Its database.
    pub(crate) fn db(&self) -> &TestDb {
        &self.db
    }

    pub(crate) fn base(&self) -> String {
        self.server.base()
    }

    /// Somebody who has not signed in.
    pub(crate) fn stranger(&self) -> Asker {
        Asker::new(self.base())
    }

    /// The owner, signed in.
    pub(crate) fn owner(&self) -> Asker {
        self.signed_in(DEMO_EMAIL, DEMO_PASSWORD)
    }

    /// Somebody signed in.
    pub(crate) fn signed_in(&self, email: &str, password: &str) -> Asker {
        Asker::new(self.base()).signing_in(email, password)
    }
}

impl Server {
    /// A server of a house that is in this database.
    pub(crate) fn of(db: &TestDb) -> Self {
        Self::start(db.url(), Filled::Already)
    }

    fn start(url: String, filled: Filled) -> Self {
        Self::start_as(url, filled, Patience::default(), |state| state)
    }

    /// A server of this house with other patience, or another way of serving.
    pub(crate) fn patient(
        house: &House,
        patience: Patience,
        with: impl FnOnce(AppState) -> AppState + Send + 'static,
    ) -> Self {
        Self::start_as(house.db.url(), Filled::Already, patience, with)
    }

    fn start_as(
        url: String,
        filled: Filled,
        patience: Patience,
        with: impl FnOnce(AppState) -> AppState + Send + 'static,
    ) -> Self {
        let (tell, told) = std::sync::mpsc::channel();
        let (stop, stopped) = oneshot::channel();
        let served = std::thread::spawn(move || {
            Runtime::new().unwrap().block_on(async {
                let store = Store::connect(&url).await.unwrap();
                store.migrate().await.unwrap();
                if matches!(filled, Filled::WithDemo | Filled::WithOrchestra) {
                    seed_demo(&store).await.unwrap();
                }
                if matches!(filled, Filled::WithOrchestra) {
                    seed_orchestra(&store).await.unwrap();
                }
                let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
                tell.send(listener.local_addr().unwrap()).unwrap();
                let stop = async {
                    let _ = stopped.await;
                };
                // What nobody asks for here is not looked for: a test that counts statements counts its own.
                let jobs = Jobs::default().looking_every(Duration::from_secs(3600));
                serve(listener, with(AppState { jobs, ..AppState::of(store) }), patience, stop).await;
            });
        });
        Self { address: told.recv().unwrap(), stop: Some(stop), served: Some(served) }
    }

    pub(crate) fn base(&self) -> String {
        format!("http://{}", self.address)
    }

    /// A bare line to it.
    pub(crate) fn line(&self) -> TcpStream {
        let line = TcpStream::connect(self.address).unwrap();
        line.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
        line
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        drop(self.stop.take());
        if let Some(served) = self.served.take() {
            let _ = served.join();
        }
    }
}

pub(crate) struct Asker {
    agent: Agent,
    base: String,
    cookie: String,
}

#[derive(Debug)]
pub(crate) struct Answer {
    pub(crate) status: u16,
    pub(crate) body: Value,
    pub(crate) head: Response<()>,
}

impl Answer {
    /// The sentence of a problem.
    pub(crate) fn detail(&self) -> &str {
        self.body["detail"].as_str().unwrap_or_default()
    }

    pub(crate) fn header(&self, name: &str) -> &str {
        self.head.headers().get(name).and_then(|v| v.to_str().ok()).unwrap_or_default()
    }

    pub(crate) fn id(&self) -> u64 {
        assert_eq!(self.status, StatusCode::CREATED.as_u16(), "{:?}", self.body);
        self.body["id"].as_u64().unwrap()
    }
}

impl Asker {
    pub(crate) fn new(base: String) -> Self {
        // A refused write may be answered before its body is read, and the line closed: none is used twice.
        let agent: Agent =
            Agent::config_builder().http_status_as_error(false).max_idle_connections(0).build().into();
        Self { agent, base, cookie: String::new() }
    }

    /// The owner of the demo, signed in at a server.
    pub(crate) fn signed_in_at(base: String) -> Self {
        Self::new(base).signing_in(DEMO_EMAIL, DEMO_PASSWORD)
    }

    /// Somebody with this cookie.
    pub(crate) fn with_cookie(self, cookie: &str) -> Self {
        let agent: Agent =
            Agent::config_builder().http_status_as_error(false).max_idle_connections(0).build().into();
        let uri = self.base.parse().unwrap();
        let (name, value) = cookie.split_once('=').unwrap();
        let cookie = ureq::Cookie::parse(format!("{name}={value}"), &uri).unwrap();
        agent.cookie_jar_lock().insert(cookie, &uri).unwrap();
        Self { agent, ..self }
    }

    fn signing_in(mut self, email: &str, password: &str) -> Self {
        let answer = self.post("/api/sign-in", &json!({ "email": email, "password": password }));
        assert_eq!(answer.status, 200, "{:?}", answer.body);
        self.cookie = answer.header("set-cookie").split(';').next().unwrap_or_default().to_owned();
        self
    }

    fn answer(method: &str, path: &str, answered: Result<Response<Body>, ureq::Error>) -> Answer {
        let (parts, mut body) = answered.unwrap().into_parts();
        let text = body.read_to_string().unwrap();
        let answer = Answer {
            status: parts.status.as_u16(),
            body: serde_json::from_str(&text).unwrap_or(Value::String(text)),
            head: Response::from_parts(parts, ()),
        };
        assert_described(method, path, &answer);
        answer
    }

    pub(crate) fn get(&self, path: &str) -> Answer {
        Self::answer("get", path, self.agent.get(format!("{}{path}", self.base)).call())
    }

    pub(crate) fn get_with(&self, path: &str, header: (&str, &str)) -> Answer {
        let request = self.agent.get(format!("{}{path}", self.base)).header(header.0, header.1);
        Self::answer("get", path, request.call())
    }

    pub(crate) fn bytes(&self, path: &str) -> Vec<u8> {
        self.agent.get(format!("{}{path}", self.base)).call().unwrap().body_mut().read_to_vec().unwrap()
    }

    /// Status and bytes, whatever they are.
    pub(crate) fn whole(&self, path: &str) -> (u16, Vec<u8>) {
        let answer = self.agent.get(format!("{}{path}", self.base)).call().unwrap();
        let status = answer.status().as_u16();
        (status, answer.into_body().read_to_vec().unwrap())
    }

    pub(crate) fn post(&self, path: &str, body: &Value) -> Answer {
        Self::answer("post", path, self.agent.post(format!("{}{path}", self.base)).send_json(body))
    }

    pub(crate) fn post_with(&self, path: &str, header: (&str, &str), body: &Value) -> Answer {
        let request = self.agent.post(format!("{}{path}", self.base)).header(header.0, header.1);
        Self::answer("post", path, request.send_json(body))
    }

    /// Sends bytes as they are, under a key.
    pub(crate) fn send(&self, path: &str, key: &str, bytes: &[u8]) -> Answer {
        let request = self.agent.post(format!("{}{path}", self.base)).header("idempotency-key", key);
        let sent = request.header("content-type", "application/octet-stream").send(bytes);
        Self::answer("post", path, sent)
    }

    pub(crate) fn put(&self, path: &str, body: &Value) -> Answer {
        Self::answer("put", path, self.agent.put(format!("{}{path}", self.base)).send_json(body))
    }

    pub(crate) fn put_with(&self, path: &str, (name, value): (&str, &str), body: &Value) -> Answer {
        let request = self.agent.put(format!("{}{path}", self.base)).header(name, value);
        Self::answer("put", path, request.send_json(body))
    }

    pub(crate) fn delete(&self, path: &str) -> Answer {
        Self::answer("delete", path, self.agent.delete(format!("{}{path}", self.base)).call())
    }

    /// The cookie of the sign-in, for a request of its own.
    pub(crate) fn cookie(&self) -> String {
        self.cookie.clone()
    }

    /// Waits until a piece of long work has ended; gives it as it stands then.
    pub(crate) fn ended(&self, job: u64) -> Value {
        for _ in 0..600 {
            let now = self.get(&format!("/api/jobs/{job}")).body;
            if ["done", "given_up", "failed"].iter().any(|state| now["state"] == *state) {
                return now;
            }
            std::thread::sleep(Duration::from_millis(50));
        }
        panic!("job {job} does not end");
    }

    /// All that is kept of a client, as one file.
    pub(crate) fn everything_of(&self, client: &Value) -> Vec<u8> {
        let asked = self.post(&format!("/api/clients/{client}/everything"), &json!({}));
        assert_eq!(self.ended(asked.id())["state"], "done");
        self.bytes(&format!("/api/clients/{client}/everything.zip"))
    }

    /// The garment of a demo client.
    pub(crate) fn garment_of(&self, client: &str) -> Value {
        let orders = self.get("/api/orders").body;
        let found =
            orders.as_array().unwrap().iter().find(|o| o["client"].as_str().unwrap().starts_with(client));
        found.unwrap_or_else(|| panic!("{client} is not in the demo")).clone()
    }
}

/// The API's description, as a document.
pub(crate) fn description() -> &'static Value {
    static DESCRIPTION: OnceLock<Value> = OnceLock::new();
    DESCRIPTION.get_or_init(|| serde_json::to_value(yardwand_server::openapi()).unwrap())
}

/// Every answer any test gets has a status and a media type that the description gives its operation.
fn assert_described(method: &str, path: &str, answer: &Answer) {
    let path = path.split('?').next().unwrap_or_default();
    let is_like = |known: &str| {
        let (known, asked) = (known.split('/'), path.split('/'));
        known.clone().count() == asked.clone().count()
            && known.zip(asked).all(|(known, asked)| known.starts_with('{') || known == asked)
    };
    let paths = description()["paths"].as_object().unwrap();
    // An address with a name of its own comes before one with a parameter there, as in the router.
    let named = paths.get(path).map(|item| (path, item));
    let like = || paths.iter().find(|(known, _)| is_like(known)).map(|(known, item)| (known.as_str(), item));
    let Some((known, item)) = named.or_else(like) else { return };
    let Some(operation) = item.get(method) else { return };
    let response = &operation["responses"][answer.status.to_string()];
    assert!(response.is_object(), "{method} {known} answers {}, which is not described", answer.status);
    let sent = answer.header("content-type").split(';').next().unwrap_or_default();
    let described = response["content"].as_object().map(|content| content.keys().collect::<Vec<_>>());
    let is_described = match &described {
        Some(kinds) => kinds.iter().any(|kind| *kind == sent),
        None => sent.is_empty(),
    };
    assert!(is_described, "{method} {known} answers {} as {sent}, described: {described:?}", answer.status);
}
