//! Requests nobody would send: every operation of the description is asked with values its schema lets through and nobody means. None
//! breaks the server, and each answer is one the description knows.

use std::sync::LazyLock;

use proptest::prelude::*;
use proptest::strategy::Union;
use proptest::test_runner::{Config, TestRunner};
use serde_json::{Map, Value, json};

use crate::common::{Asker, House, description};

/// Deeper than this a schema that names itself is cut off.
const DEEPEST: u32 = 8;

fn texts() -> impl Strategy<Value = Value> {
    let known = [
        "",
        " ",
        "0",
        "-1",
        "36 7/8",
        "36 1/2\"",
        "92,5",
        "1e999",
        "NaN",
        "４２",
        "\u{0}",
        "e\u{301}",
        "\u{202e}abc",
        "🪡",
        "'; DROP TABLE clients; --",
        "<script>alert(1)</script>",
        "../../etc/passwd",
        "%00",
        "{}",
        "null",
        "bust_girth",
        "waist_girth",
        "left",
        "front",
        "owner",
        "dress",
        "2026-11-30",
        "nobody@workroom.example",
    ];
    let long = [300_usize, 5000].map(|count| Just(json!("ü".repeat(count))).boxed());
    Union::new(known.map(|text| Just(json!(text)).boxed()).into_iter().chain(long))
}

/// Days at the ends of what a calendar, a program and a database can hold.
fn days() -> impl Strategy<Value = String> {
    let known = [
        "2026-11-30",
        "2026-02-29",
        "2024-02-29",
        "0000-01-01",
        "0001-01-01",
        "1000-01-01",
        "1969-12-31",
        "9999-12-31",
        "10000-01-01",
        "+10000-01-01",
        "-0001-12-31",
        "-262143-01-01",
        "+262142-12-31",
        "+999999-01-01",
        "30.11.2026",
        "",
    ];
    prop::sample::select(known.map(str::to_owned).to_vec())
}

fn moments() -> impl Strategy<Value = String> {
    (
        days(),
        prop::sample::select(vec!["T00:00:00Z", "T23:59:60Z", "T23:59:59.999999999+14:00", "T24:00:00Z", ""]),
    )
        .prop_map(|(day, time)| format!("{day}{time}"))
}

fn numbers(whole: bool) -> impl Strategy<Value = Value> {
    let whole_ones = prop_oneof![
        4 => (0..12_i64).prop_map(Value::from),
        1 => prop::sample::select(vec![-1, i64::from(i32::MAX), i64::from(u32::MAX), i64::MAX, i64::MIN]).prop_map(Value::from),
        1 => Just(Value::from(u64::MAX)),
    ];
    let others = prop_oneof![
        3 => (-60.0..60.0_f64).prop_map(Value::from),
        1 => prop::sample::select(vec![0.0, -0.0, 1e-7, -1e-7, 1e9, -1e9, 1e300, -1e300, f64::MIN_POSITIVE]).prop_map(Value::from),
    ];
    if whole { whole_ones.boxed() } else { prop_oneof![whole_ones, others].boxed() }
}

/// Values that a schema lets through.
fn of_schema(schema: &'static Value, depth: u32) -> BoxedStrategy<Value> {
    if depth > DEEPEST {
        return Just(Value::Null).boxed();
    }
    if let Some(name) = schema["$ref"].as_str() {
        let name = name.rsplit('/').next().unwrap();
        return of_schema(&description()["components"]["schemas"][name], depth + 1);
    }
    for several in ["oneOf", "anyOf"] {
        if let Some(choices) = schema[several].as_array() {
            return Union::new(choices.iter().map(|each| of_schema(each, depth + 1))).boxed();
        }
    }
    if let Some(parts) = schema["allOf"].as_array() {
        let parts: Vec<_> = parts.iter().map(|each| of_schema(each, depth + 1)).collect();
        let together = |parts: Vec<Value>| {
            let fields = parts.into_iter().filter_map(|part| part.as_object().cloned()).flatten();
            Value::Object(fields.collect())
        };
        return parts.prop_map(together).boxed();
    }
    if let Some(values) = schema["enum"].as_array() {
        return prop_oneof![9 => prop::sample::select(values.clone()), 1 => texts()].boxed();
    }
    match &schema["type"] {
        Value::Array(kinds) => {
            let of = kinds.iter().filter_map(Value::as_str).map(|kind| of_kind(kind, schema, depth));
            Union::new(of).boxed()
        }
        Value::String(kind) => of_kind(kind, schema, depth),
        _ => prop_oneof![texts(), numbers(false), Just(json!({})), Just(json!([]))].boxed(),
    }
}

fn of_kind(kind: &str, schema: &'static Value, depth: u32) -> BoxedStrategy<Value> {
    match kind {
        "string" => match schema["format"].as_str() {
            Some("date") => days().prop_map(Value::from).boxed(),
            Some("date-time") => moments().prop_map(Value::from).boxed(),
            _ => texts().boxed(),
        },
        "integer" => numbers(true).boxed(),
        "number" => numbers(false).boxed(),
        "boolean" => any::<bool>().prop_map(Value::from).boxed(),
        "array" => {
            prop::collection::vec(of_schema(&schema["items"], depth + 1), 0..3).prop_map(Value::from).boxed()
        }
        "object" => of_object(schema, depth),
        _ => Just(Value::Null).boxed(),
    }
}

fn of_object(schema: &'static Value, depth: u32) -> BoxedStrategy<Value> {
    let required: Vec<&str> =
        schema["required"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
    let mut fields: Vec<BoxedStrategy<Option<(String, Value)>>> = Vec::new();
    for (name, of) in schema["properties"].as_object().into_iter().flatten() {
        let field = of_schema(of, depth + 1).prop_map(|value| Some((name.clone(), value)));
        let left_out = if required.contains(&name.as_str()) { 1 } else { 12 };
        fields.push(prop_oneof![30 => field, left_out => Just(None)].boxed());
    }
    if schema["additionalProperties"].is_object() {
        let others =
            prop::collection::vec((texts(), of_schema(&schema["additionalProperties"], depth + 1)), 0..3);
        return (fields, others)
            .prop_map(|(fields, others)| {
                let others =
                    others.into_iter().filter_map(|(name, value)| Some((name.as_str()?.to_owned(), value)));
                Value::Object(fields.into_iter().flatten().chain(others).collect())
            })
            .boxed();
    }
    fields.prop_map(|fields| Value::Object(fields.into_iter().flatten().collect::<Map<_, _>>())).boxed()
}

/// What is put into an address.
fn in_address(parameter: &'static Value) -> BoxedStrategy<String> {
    let written = |value: Value| match value {
        Value::String(text) => text,
        other => other.to_string(),
    };
    of_schema(&parameter["schema"], 0).prop_map(written).boxed()
}

fn escaped(text: &str) -> String {
    let plain = |byte: u8| byte.is_ascii_alphanumeric() || b"-._~".contains(&byte);
    text.bytes()
        .map(|byte| if plain(byte) { (byte as char).to_string() } else { format!("%{byte:02X}") })
        .collect()
}

/// The address of an operation with something in it for each of its parameters.
fn addresses(path: &'static str, operation: &'static Value) -> BoxedStrategy<String> {
    let parameters: Vec<_> = operation["parameters"]
        .as_array()
        .into_iter()
        .flatten()
        .filter(|each| each["in"] == "path" || each["in"] == "query")
        .map(|each| {
            (in_address(each), any::<u8>()).prop_map(move |(value, left_out)| (each, value, left_out))
        })
        .collect();
    parameters
        .prop_map(move |parameters| {
            let (mut address, mut query) = (path.to_owned(), Vec::new());
            for (parameter, value, left_out) in parameters {
                let name = parameter["name"].as_str().unwrap();
                if parameter["in"] == "path" {
                    // Mostly something that is there.
                    let number = value.parse::<u64>().map(|number| if number == 0 { 1 } else { number });
                    let value = number.map_or(value, |number| number.to_string());
                    let value = if value.is_empty() { "1".to_owned() } else { escaped(&value) };
                    address = address.replace(&format!("{{{name}}}"), &value);
                } else if parameter["required"] == true || left_out < 128 {
                    query.push(format!("{name}={}", escaped(&value)));
                }
            }
            if query.is_empty() { address } else { format!("{address}?{}", query.join("&")) }
        })
        .boxed()
}

/// Each operation with its method and path, but for those that end or change the sign-in that asks, and streams that do not end.
static OPERATIONS: LazyLock<Vec<(&str, &str, &Value)>> = LazyLock::new(|| {
    let is_own = |path: &str| {
        path == "/api/sign-out"
            || path.starts_with("/api/people/{id}")
            || path.starts_with("/api/me/")
            || path.ends_with("/events")
    };
    let paths = description()["paths"].as_object().unwrap();
    let all = paths.iter().flat_map(|(path, item)| {
        item.as_object()
            .unwrap()
            .iter()
            .map(move |(method, operation)| (method.as_str(), path.as_str(), operation))
    });
    all.filter(|(_, path, _)| !is_own(path)).collect()
});

fn asked(asker: &Asker, method: &str, address: &str, body: &Value) -> u16 {
    let answer = match method {
        "get" => return asker.whole(address).0,
        "post" => asker.post(address, body),
        "put" => asker.put(address, body),
        _ => asker.delete(address),
    };
    // A sentence, not the name of a Rust type or of a table.
    let says = answer.detail();
    assert!(!says.contains("::") && !says.contains("sqlx"), "{method} {address}: {says}");
    answer.status
}

#[test]
fn no_request_breaks_the_server() {
    let house = House::with_demo();
    let owner = house.owner();
    let cases = std::env::var("PROPTEST_CASES").ok().and_then(|text| text.parse().ok()).unwrap_or(12);
    let mut broken = Vec::new();
    for (method, path, operation) in OPERATIONS.iter() {
        let content = &operation["requestBody"]["content"]["application/json"]["schema"];
        let bodies = if content.is_null() { Just(json!({})).boxed() } else { of_schema(content, 0) };
        // Other tests ask where nothing is found; here shrinking would change the house, and says little more.
        let config = Config { cases, max_shrink_iters: 0, failure_persistence: None, ..Config::default() };
        let done = TestRunner::new(config).run(&(addresses(path, operation), bodies), |(address, body)| {
            let status = asked(&owner, method, &address, &body);
            prop_assert!(status < 500, "{status} for {} {}", address, body);
            prop_assert!(status != 401 || operation.get("security").is_some(), "signed out by {}", address);
            Ok(())
        });
        if let Err(error) = done {
            let said: String = error.to_string().chars().take(700).collect();
            broken.push(format!("{method} {path}: {said}"));
        }
    }
    assert!(broken.is_empty(), "{broken:#?}");
    assert!(OPERATIONS.len() > 150, "{}", OPERATIONS.len());
}
