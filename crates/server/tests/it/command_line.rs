//! The craft on standard input and output.

use std::io::Write;
use std::process::{Command, Output, Stdio};

use serde_json::{Value, json};

fn yardwand(task: &str, input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .arg(task)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    child.stdin.take().unwrap().write_all(input.as_bytes()).unwrap();
    child.wait_with_output().unwrap()
}

fn answer(task: &str, input: &Value) -> Value {
    let output = yardwand(task, &input.to_string());
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
}

fn body() -> Value {
    json!({
        "neck_base_girth": 368.3, "shoulder_length": 127.0, "shoulder_slope": 41.275, "across_front": 330.2,
        "across_back": 349.25, "bust_girth": 939.8, "upper_bust_girth": 889.0, "waist_girth": 736.6,
        "bust_span": 190.5, "snp_to_bust_point": 266.7, "snp_to_waist_front": 431.8, "snp_to_waist_back": 419.1,
        "nape_to_waist_back": 400.05, "armhole_depth": 190.5, "side_length": 190.5
    })
}

#[test]
fn draft_compare_alter_and_export_follow_each_other() {
    let drafted = answer("draft", &json!({ "body": body() }));
    assert!(drafted["checks"].as_array().unwrap().iter().all(|c| c["passed"] == true));

    let mut fuller = body();
    fuller["bust_girth"] = json!(939.8 + 50.8);
    fuller["snp_to_waist_front"] = json!(431.8 + 15.0);
    let block = json!({ "label": "12", "figure": body(), "pattern": drafted["pattern"] });
    let compared = answer("compare", &json!({ "body": fuller, "block": block }));
    let steps = compared["recipe"]["steps"].as_array().unwrap();
    assert!(steps.iter().any(|step| step["alteration"] == "full_bust"), "{steps:?}");

    let altered = answer("alter", &json!({ "pattern": drafted["pattern"], "recipe": compared["recipe"] }));
    assert_eq!(altered["preview"]["steps"][0]["state"], "done");

    let label = json!({ "client": "A. B.", "garment": "Dress", "block": "size 12", "version": 1, "date": "1 May 2026" });
    let svg = yardwand("export", &json!({ "pattern": altered["pattern"], "label": label }).to_string());
    assert!(String::from_utf8(svg.stdout).unwrap().starts_with("<svg "));
    let pdf = yardwand(
        "export",
        &json!({ "pattern": altered["pattern"], "label": label, "format": "pdf_a4" }).to_string(),
    );
    assert_eq!(&pdf.stdout[..5], b"%PDF-");
}

/// What was clicked of one of the invented drapes.
fn draped(id: &str) -> Value {
    let cases: Value =
        serde_json::from_str(include_str!("../../../core/tests/it/data/drape_cases.json")).unwrap();
    let cases = cases["cases"].as_array().unwrap();
    cases.iter().find(|case| case["id"] == id).unwrap()["input"].clone()
}

#[test]
fn marks_of_a_drape_become_a_pattern_that_is_altered_and_written() {
    let told = answer("drape", &draped("public-04"));
    assert_eq!(told["asks"], json!([]));
    assert!(told["lines"].as_array().unwrap().len() >= 12, "{}", told["lines"]);
    assert_eq!(told["camera"].as_array().unwrap().len(), 2);
    let pattern = json!({ "form": 1, "pieces": told["pieces"] });
    let recipe = json!({ "steps": [{ "id": 1, "alteration": "length", "amounts": { "amount": 12.0 } }] });
    let altered = answer("alter", &json!({ "pattern": pattern, "recipe": recipe }));
    assert_eq!(altered["preview"]["steps"][0]["state"], "done");
    let swapped = answer("drape", &draped("public-05"));
    assert_eq!(swapped["asks"][0]["offer"], json!({ "one": "neck_side", "other": "tip" }));
}

#[test]
fn causes_of_described_fittings_are_a_line_each() {
    let table = r#"
        [[fitting]]
        cause = "rounded_back"
        why = "Old rows stay readable."
        seen = ["hike up at back waist", "drag at shoulder blade towards back neck"]
        level = { "centre back" = 15 }

        [[fitting]]
        seen = ["fold along at back armhole goes when arms forward"]

        [[fitting]]
        seen = ["swing forward at sleeve hem"]
    "#;
    let output = yardwand("causes", table);
    assert!(output.status.success());
    let text = String::from_utf8(output.stdout).unwrap();
    let told: Vec<Value> = text.lines().map(|line| serde_json::from_str(line).unwrap()).collect();
    assert_eq!(told.len(), 3);
    let first = &told[0]["causes"][0];
    assert_eq!((&first["cause"], &first["sure"]), (&json!("rounded_back"), &json!("sure")));
    assert_eq!((&first["alteration"], &first["amount"]), (&json!("rounded_back"), &json!(15.0)));
    assert!(first["for"].as_array().unwrap().len() >= 3 && first["against"] == json!([]), "{first}");
    let left = &told[1]["causes"][0];
    assert_eq!((&left["cause"], &left["alteration"]), (&json!("movement_ease"), &Value::Null));
    assert!(yardwand("causes", "").stdout.is_empty());
}

#[test]
fn a_bad_document_gets_one_clear_line_and_exit_code_2() {
    let drafted = answer("draft", &json!({ "body": body() }));
    let steep = json!({ "body": { "shoulder_slope": 300.0 } }).to_string();
    let beyond = json!({ "pattern": drafted["pattern"], "recipe": { "form": 1, "steps": [
        { "id": 1, "alteration": "full_bust", "amounts": { "amount": 118.0 } }] } });
    let unknown = json!({ "pattern": drafted["pattern"], "recipe": { "steps": [
        { "id": 1, "alteration": "wider", "amounts": {} }] } });
    let open = json!({ "pattern": { "pieces": [{ "kind": "bodice_front", "edges": [], "darts": [], "levels": [],
        "notches": [], "grain": [{ "x": 0, "y": 0 }, { "x": 0, "y": 1 }] }] }, "recipe": {} });
    for (task, input, says) in [
        ("draft", "not json", "cannot be read"),
        ("draft", "{}", "body"),
        ("draft", steep.as_str(), "still wants"),
        ("compare", "{\"body\":{}}", "block"),
        ("alter", &beyond.to_string(), "more than the"),
        ("alter", &unknown.to_string(), "no alteration is called"),
        ("alter", &open.to_string(), "does not close"),
        ("export", "[]", "cannot be read"),
        ("drape", "{\"front\":{},\"back\":{}}", "marks_mm"),
        (
            "causes",
            "[[fitting]]\nseen = [\"ripple at bust\"]",
            "fitting 1: “ripple at bust” begins with no kind",
        ),
        ("causes", "[[fitting]]\nwhy = \"\"", "the table cannot be read: line 1"),
        ("drape", &draped("public-07").to_string(), "no mark for the underarm"),
    ] {
        let output = yardwand(task, input);
        let said = String::from_utf8(output.stderr).unwrap();
        assert_eq!(output.status.code(), Some(2), "{task} {input}: {said}");
        assert_eq!(said.trim().lines().count(), 1, "{said}");
        assert!(said.contains(says), "{task}: {said:?} should speak of {says:?}");
        assert!(output.stdout.is_empty());
    }
}

#[test]
fn every_alteration_listed_can_be_written_into_a_recipe() {
    let listed = yardwand("alterations", "");
    assert!(listed.status.success());
    let listed: Value = serde_json::from_slice(&listed.stdout).unwrap();
    let bodice = answer("draft", &json!({ "body": body() }));
    let mut dressed = body();
    dressed["hip_girth"] = json!(1000.0);
    dressed["waist_to_hip"] = json!(205.0);
    let dress = answer("draft", &json!({ "body": dressed, "method": { "kind": "dress" } }));
    let hips =
        json!({ "waist_girth": 740.0, "hip_girth": 1000.0, "waist_to_hip": 205.0, "skirt_length": 620.0 });
    let skirt = answer("draft", &json!({ "body": hips, "method": { "kind": "skirt" } }));
    let codes: Vec<&str> =
        listed.as_array().unwrap().iter().map(|each| each["code"].as_str().unwrap()).collect();
    assert!(codes.contains(&"full_bust") && codes.contains(&"length"), "{codes:?}");
    for each in listed.as_array().unwrap() {
        let is_for_a_skirt = each["garments"].as_array().unwrap().iter().all(|garment| garment == "skirt");
        let below_the_waist =
            ["hip_curve", "seat_length", "belly_length"].contains(&each["code"].as_str().unwrap());
        let drafted = match (is_for_a_skirt, below_the_waist) {
            (true, _) => &skirt,
            (false, true) => &dress,
            (false, false) => &bodice,
        };
        let params = each["params"].as_array().unwrap();
        assert_eq!(params[0]["code"], "amount", "{}", each["name"]);
        // Every way that is listed is taken; nothing is asked for, so nothing is done.
        let mut amounts = json!({ "amount": 0.0 });
        for param in params.iter().filter(|param| param["on"] == "choice") {
            for way in param["ways"].as_array().unwrap() {
                amounts[param["code"].as_str().unwrap()] = way["code"].clone();
            }
        }
        let step =
            json!({ "id": 1, "alteration": each["code"], "amounts": amounts, "on": true, "reason": "" });
        let recipe = json!({ "form": 1, "steps": [step] });
        let asked = json!({ "pattern": drafted["pattern"], "recipe": recipe });
        let done = yardwand("alter", &asked.to_string());
        let says = String::from_utf8_lossy(&done.stderr).into_owned();
        // Without a sleeve, or on a bodice, an alteration says what it wants; a princess line divides the front even so.
        if done.status.success() && each["code"] != "princess_line" {
            let altered: Value = serde_json::from_slice(&done.stdout).unwrap();
            assert_eq!(altered["pattern"], drafted["pattern"], "{}", each["name"]);
        } else if !done.status.success() {
            let wants = says.contains("one-piece sleeve")
                || says.contains("hem of a sleeve")
                || says.contains("an elbow dart takes in")
                || says.contains("end at the hip")
                || says.contains("in this shape, must lie")
                || says.contains("upper edge without shoulders");
            assert!(wants, "{}: {says}", each["name"]);
        }
    }
}

/// Runs a command of the house with these lines to read; what it said and what it complained of.
fn in_house(db: &yardwand_devdb::TestDb, words: &[&str], lines: &str) -> (bool, String, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(words)
        .env("DATABASE_URL", db.url())
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let _ = child.stdin.take().unwrap().write_all(lines.as_bytes());
    let output = child.wait_with_output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (output.status.success(), text(output.stdout), text(output.stderr))
}

#[test]
fn an_empty_house_is_set_up_once_and_its_owner_gets_in_whatever_she_forgets() {
    let db = yardwand_devdb::TestDb::new();
    let setup = |lines: &str| in_house(&db, &["setup"], lines);
    for (lines, says) in [
        ("", "ended too early"),
        ("\n", "The name is empty"),
        ("The Workroom\nell\n", "write inch or cm"),
        ("The Workroom\ncm\nMarit Holm\nmarit at home\n", "is no e-mail address"),
        (
            "The Workroom\ncm\nMarit Holm\nmarit@workroom.example\nMaritHolm2026\n",
            "first that somebody would try",
        ),
    ] {
        let (done, _, complained) = setup(lines);
        assert!(!done && complained.contains(says), "{lines}: {complained}");
    }
    assert_eq!(db.ask("SELECT COUNT(*) FROM people").trim(), "0", "what was turned down left nothing");
    let (done, said, complained) =
        setup("The Workroom\ncm\nMarit Holm\nMarit@Workroom.example\nlinen thread and wax\n");
    assert!(
        done && said.contains("The Workroom is ready: Marit Holm signs in as marit@workroom.example"),
        "{complained}"
    );
    let (done, _, complained) =
        setup("Another\ncm\nAnother\nanother@workroom.example\nlinen thread and wax\n");
    assert!(!done && complained.contains("somebody is in this house already"), "{complained}");

    let server = crate::common::Server::of(&db);
    let signs_in = |password: &str| {
        let asked = json!({ "email": "marit@workroom.example", "password": password });
        crate::common::Asker::new(server.base()).post("/api/sign-in", &asked).status
    };
    assert_eq!(signs_in("linen thread and wax"), 200);
    let (done, _, complained) =
        in_house(&db, &["password", "nobody@workroom.example"], "kettle orbit mauve stair\n");
    assert!(!done && complained.contains("nobody in this house"), "{complained}");
    assert!(in_house(&db, &["password", "marit@workroom.example"], "kettle orbit mauve stair\n").0);
    assert_eq!((signs_in("linen thread and wax"), signs_in("kettle orbit mauve stair")), (401, 200));
    assert_eq!(
        db.ask("SELECT name, style FROM house").trim(),
        "The Workroom\t{\"unit\":\"cm\",\"steps\":10}"
    );
}
