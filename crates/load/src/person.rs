//! Somebody at work: signed in, asking one thing after another.

use std::time::{Duration, Instant};

use serde_json::{Value, json};
use ureq::http::Response;
use ureq::{Agent, Body};

use crate::Measured;

/// The demo's sign-in; the server itself is another program here.
const EMAIL: &str = "marit@workroom.example";
const PASSWORD: &str = "chalk and ink";
/// No answer takes longer.
const PATIENCE: Duration = Duration::from_secs(60);
/// No answer is larger, in bytes.
const LARGEST: u64 = 64 << 20;

/// A device with a sign-in of its own.
pub(crate) struct Signed {
    agent: Agent,
    base: String,
    cookie: String,
}

/// What was answered, and how long it took.
pub(crate) struct Answer {
    pub(crate) status: u16,
    pub(crate) took: Duration,
    pub(crate) body: Value,
}

impl Answer {
    /// From the moment it is asked to the last byte.
    fn timed(ask: impl FnOnce() -> Result<Response<Body>, ureq::Error>) -> Measured<Self> {
        let begun = Instant::now();
        let mut answer = ask()?;
        let whole = answer.body_mut().with_config().limit(LARGEST).read_to_vec()?;
        let took = begun.elapsed();
        let body = serde_json::from_slice(&whole).unwrap_or_default();
        Ok(Self { status: answer.status().as_u16(), took, body })
    }
}

impl Signed {
    pub(crate) fn into(base: &str) -> Measured<Self> {
        let agent: Agent =
            Agent::config_builder().http_status_as_error(false).timeout_global(Some(PATIENCE)).build().into();
        let entry = json!({ "email": EMAIL, "password": PASSWORD });
        // Hashing takes turns: whoever is turned away in a crowd comes again.
        let begun = Instant::now();
        loop {
            let answer = agent.post(format!("{base}/api/sign-in")).send_json(&entry)?;
            if answer.status() == 200 {
                let cookie = answer.headers()["set-cookie"].to_str()?.split(';').next().unwrap_or_default();
                return Ok(Self { cookie: cookie.to_owned(), agent, base: base.to_owned() });
            }
            if begun.elapsed() > PATIENCE {
                return Err(format!("nobody comes in: {}", answer.status()).into());
            }
            std::thread::sleep(Duration::from_millis(500));
        }
    }

    pub(crate) fn cookie(&self) -> &str {
        &self.cookie
    }

    pub(crate) fn get(&self, path: &str) -> Measured<Answer> {
        let request = self.agent.get(format!("{}{path}", self.base)).header("cookie", &self.cookie);
        Answer::timed(|| request.call())
    }

    pub(crate) fn post(&self, path: &str, body: &Value) -> Measured<Answer> {
        let request = self.agent.post(format!("{}{path}", self.base)).header("cookie", &self.cookie);
        Answer::timed(|| request.send_json(body))
    }

    /// What is there: an answer that is none is an error.
    pub(crate) fn read(&self, path: &str) -> Measured<Value> {
        let answer = self.get(path)?;
        if answer.status == 200 { Ok(answer.body) } else { Err(format!("{path}: {}", answer.status).into()) }
    }

    /// What was made: its number.
    pub(crate) fn made(&self, path: &str, body: &Value) -> Measured<u64> {
        let answer = self.post(path, body)?;
        answer.body["id"].as_u64().ok_or_else(|| format!("{path}: {} {}", answer.status, answer.body).into())
    }
}
