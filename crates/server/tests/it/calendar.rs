//! The calendar through the API: dates planned and moved, her days, today's list, files and reminders.

use crate::common::House;
use chrono::{Days, NaiveDate, Utc};
use serde_json::json;

fn today() -> NaiveDate {
    Utc::now().date_naive()
}

#[test]
fn dates_are_planned_back_and_what_cannot_be_is_said_with_the_way_out() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Bettina");
    let at = format!("/api/orders/{}/dates", order["id"]);
    let propose = |wanted: NaiveDate, toiles: u32| {
        owner.post(&format!("{at}/proposal"), &json!({ "wanted_on": wanted, "toiles": toiles }))
    };
    let past = propose(today() - Days::new(1), 2);
    assert!(past.status == 422 && past.detail().contains("lies before today: choose today or later"));
    assert!(propose(today() + Days::new(9000), 2).detail().contains("check the year"));
    assert_eq!(propose(today() + Days::new(60), 0).body["pointer"], "/toiles");

    let hurried = propose(today() + Days::new(5), 2).body;
    assert_eq!(hurried["feasible"], false);
    assert!(hurried["says"].as_array().unwrap().iter().any(|s| s.as_str().unwrap().contains("working days")));
    let earliest: NaiveDate = serde_json::from_value(hurried["earliest"].clone()).unwrap();
    assert_eq!(propose(earliest, 2).body["feasible"], true, "the earliest date is honest");

    let revision = owner.get(&at).body["revision"].clone();
    let wish = |take: bool| json!({ "revision": revision, "wanted_on": today() + Days::new(5), "toiles": 2, "take_earliest": take });
    assert_eq!(owner.put(&at, &wish(false)).body["pointer"], "/wanted_on");
    let kept = owner.put(&at, &wish(true));
    assert_eq!(kept.status, 200, "{:?}", kept.body);
    let visits = kept.body["visits"].as_array().unwrap();
    assert_eq!(visits.last().unwrap()["on"], hurried["earliest"]);
    assert_eq!(owner.put(&at, &wish(true)).status, 409, "planned on what it was before");

    // Moving the first toile asks first, then takes what depends on it along.
    let toile = visits.iter().find(|v| v["visit"]["kind"] == "toile").unwrap();
    let on: NaiveDate = serde_json::from_value(toile["on"].clone()).unwrap();
    let ask = |to: NaiveDate, keep: bool| {
        let revision = owner.get(&at).body["revision"].clone();
        let body = json!({ "revision": revision, "visit": toile["visit"], "to": to, "keep": keep });
        owner.post(&format!("{at}/move"), &body)
    };
    let before = owner.get(&at).body;
    let said = ask(on + Days::new(14), false);
    assert!(!said.body["moves"].as_array().unwrap().is_empty() && said.body["late"].is_string());
    assert_eq!(owner.get(&at).body["visits"], before["visits"], "asking moves nothing");
    let sunday =
        (0..7).map(|n| on + Days::new(n)).find(|d| chrono::Datelike::weekday(d) == chrono::Weekday::Sun);
    let closed = ask(sunday.unwrap(), true);
    assert!(closed.detail().contains("the workroom is closed on Sunday"), "{}", closed.detail());
    assert!(ask(today() - Days::new(2), true).detail().contains("before today"));
    assert_eq!(ask(on + Days::new(14), true).status, 200);
    assert_ne!(owner.get(&at).body["visits"], before["visits"]);
    // A date entered with the order obeys the same sentence.
    let entry = json!({ "garment": "Coat", "wanted_on": today() - Days::new(3) });
    let late = owner.post(&format!("/api/clients/{}/orders", order["client_id"]), &entry);
    assert!(late.detail().contains("lies before today"));
}

#[test]
fn her_busy_days_come_from_a_file_and_are_planned_around() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Filippa");
    let at = format!("/api/orders/{}/dates", order["id"]);
    let visits = owner.get(&at).body["visits"].clone();
    let toile = visits.as_array().unwrap().iter().find(|v| v["visit"]["kind"] == "toile").unwrap();
    let on: NaiveDate = serde_json::from_value(toile["on"].clone()).unwrap();
    let day = |date: NaiveDate| date.format("%Y%m%d").to_string();
    let file = format!(
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:20260101T000000Z\r\n\
         DTSTART;VALUE=DATE:{}\r\nDTEND;VALUE=DATE:{}\r\nSUMMARY:Tour to the coast\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
        day(on),
        day(on + Days::new(1))
    );
    let busy = format!("/api/clients/{}/busy", order["client_id"]);
    let read = owner.post(&busy, &json!({ "content": file }));
    assert_eq!((read.status, &read.body["added"]), (200, &json!(1)), "{:?}", read.body);
    assert_eq!(owner.post(&busy, &json!({ "content": file })).body["added"], 0, "read twice, kept once");
    let away = owner.get(&format!("/api/clients/{}/away", order["client_id"])).body;
    assert!(!away.to_string().contains("coast"), "what she does there is not kept");
    let wish = json!({ "wanted_on": order["wanted_on"], "toiles": 2 });
    let plan = owner.post(&format!("{at}/proposal"), &wish).body;
    let hers = plan["visits"].as_array().unwrap().iter().filter(|v| v["visit"]["kind"] != "cutting");
    assert!(hers.into_iter().all(|v| v["on"] != json!(on)), "{plan}");
    let empty = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n";
    for nothing in [empty, "", "shopping list"] {
        let refused = owner.post(&busy, &json!({ "content": nothing }));
        assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/content")));
        assert!(refused.detail().len() > 20, "{}", refused.detail());
    }
}

#[test]
fn today_says_what_to_prepare_and_the_calendar_file_says_nothing_of_her_body() {
    let house = House::with_demo();
    let owner = house.owner();
    let list = owner.get("/api/today").body;
    assert_eq!(list[0]["visit"]["client"], "Clara Wynn-Osei");
    let prepare = list[0]["prepare"].to_string();
    for part in ["Version 2 of the pattern", "Look again at: Strain at bust", "To bring, as last time: "] {
        assert!(prepare.contains(part), "{prepare}");
    }
    let file = String::from_utf8(owner.bytes("/api/calendar.ics")).unwrap();
    assert!(file.starts_with("BEGIN:VCALENDAR\r\n") && file.contains("Clara Wynn-Osei: toile 2"));
    assert!(!file.to_lowercase().contains("strain"));
    // Reminders are written once, into the outbox.
    let written = owner.post("/api/letters", &json!({})).body["written"].as_u64().unwrap();
    assert!(written >= 1);
    assert_eq!(owner.post("/api/letters", &json!({})).body["written"], 0);
    let outbox = owner.get("/api/letters").body;
    assert_eq!(outbox["simulated"], true);
    let letter = &outbox["letters"][0];
    assert!(letter["body"].as_str().unwrap().contains("Please bring the foundation"));
    assert!(!letter["body"].as_str().unwrap().to_lowercase().contains("strain"));
}

#[test]
fn an_entry_of_the_calendar_file_is_told_from_another_house_s_and_counts_its_moves() {
    let (here, there) = (House::with_demo(), House::with_demo());
    let lines = |house: &House, name: &str| -> Vec<String> {
        let file = String::from_utf8(house.owner().bytes("/api/calendar.ics")).unwrap();
        let mut lines: Vec<String> =
            file.lines().filter(|line| line.starts_with(name)).map(str::to_owned).collect();
        lines.sort();
        lines
    };
    let uids = lines(&here, "UID:");
    assert!(!uids.is_empty());
    assert!(lines(&there, "UID:").iter().all(|uid| !uids.contains(uid)), "one identity in two houses");
    assert_eq!(lines(&here, "UID:"), uids, "an entry keeps its identity");
    assert!(lines(&here, "SEQUENCE:").iter().all(|line| line == "SEQUENCE:0"));

    let owner = here.owner();
    let order = owner.garment_of("Filippa");
    let at = format!("/api/orders/{}/dates", order["id"]);
    let dates = owner.get(&at).body;
    let delivery = dates["visits"].as_array().unwrap().last().unwrap().clone();
    let on: NaiveDate = serde_json::from_value(delivery["on"].clone()).unwrap();
    let later = (7..14).map(|n| on + Days::new(n)).find(|day| {
        let asked =
            json!({ "revision": dates["revision"], "visit": delivery["visit"], "to": day, "keep": false });
        owner.post(&format!("{at}/move"), &asked).status == 200
    });
    let moved =
        json!({ "revision": dates["revision"], "visit": delivery["visit"], "to": later, "keep": true });
    assert_eq!(owner.post(&format!("{at}/move"), &moved).status, 200);
    let now = owner.get(&at).body;
    let days = |dates: &serde_json::Value| -> Vec<serde_json::Value> {
        dates["visits"].as_array().unwrap().iter().map(|visit| visit["on"].clone()).collect()
    };
    let changed = days(&dates).iter().zip(days(&now)).filter(|(old, new)| *old != new).count();
    assert!(changed > 0, "{now}");
    let counted = lines(&here, "SEQUENCE:").into_iter().filter(|line| line == "SEQUENCE:1").count();
    assert_eq!(counted, changed, "each visit that was moved counts it once");
    assert_eq!(lines(&here, "UID:"), uids, "a moved entry keeps its identity");
}

#[test]
fn a_house_calendar_that_cannot_be_planned_by_is_refused() {
    let house = House::with_demo();
    let owner = house.owner();
    let kept = owner.get("/api/house").body;
    for (pointer, value) in [
        ("/calendar/open", json!([false, false, false, false, false, false, false])),
        ("/calendar/a_day", json!(0)),
        ("/calendar/gaps/toile_to_toile", json!(500)),
        ("/calendar/closed", json!([{ "from": "2027-02-02", "to": "2027-02-01", "why": "" }])),
    ] {
        let mut wrong = kept.clone();
        *wrong.pointer_mut(pointer).unwrap() = value;
        let refused = owner.put("/api/house", &wrong);
        assert_eq!(refused.status, 422, "{pointer}");
        assert!(refused.body["pointer"].as_str().unwrap().starts_with(pointer), "{:?}", refused.body);
    }
    assert_eq!(owner.get("/api/house").body, kept);
}
