//! What is typed is what is kept: every form that holds a length is typed into and pressed in one go, by mouse, by
//! Enter and by thumb, while the server answers half a second late; and a double press saves once.
//!
//! Forms whose field is read before it is sent (`LengthField`): the cutting table's amount and its settings (Save
//! version), what is added to a step (`alterations.rs`), a decision by hand in the fitting room, a line of the plan (Begin the pattern), how the house measures,
//! the allowances of the print, ease on the tape while measuring. All other lengths (readings, pins, level lines,
//! hems, forms, cards, ease sets, constants, traces) travel as text with the write that keeps them.

use serde_json::{Value, json};
use thirtyfour::Key;
use thirtyfour::prelude::*;
use yardwand_e2e::{Browser, Walk, walk_as};

/// How late the server answers, in milliseconds.
const LATE: u64 = 500;

/// Ways to press a button straight after typing.
#[derive(Clone, Copy, Debug)]
enum Hand {
    Mouse,
    Enter,
    Thumb,
}

/// Types into a field and presses at once: nothing is waited for in between.
async fn type_and_press(browser: &Browser, hand: Hand, label: &str, text: &str, button: &str) -> Walk {
    // Found beforehand: a hand does not look for the button after typing.
    const FIND: &str = "
        const nameOf = (e) => (e.getAttribute('aria-label') ?? e.innerText ?? '').trim().replace(/\\s+/g, ' ')
        return [...document.querySelectorAll('button, a')].find((e) => e.getClientRects().length && nameOf(e).startsWith(arguments[0]))";
    let found = async || Ok(!browser.driver.execute(FIND, vec![json!(button)]).await?.json().is_null());
    browser.wait_for(format!("a button {button}"), found).await?;
    let button = browser.driver.execute(FIND, vec![json!(button)]).await?.element()?;
    let field = browser.field(label).await?;
    field.send_keys(Key::Control + "a").await?;
    match hand {
        Hand::Mouse => {
            field.send_keys(text).await?;
            button.click().await?;
        }
        Hand::Enter => field.send_keys(String::from(text) + Key::Enter).await?,
        Hand::Thumb => {
            field.send_keys(text).await?;
            browser.tap(&button).await?;
        }
    }
    Ok(())
}

/// What the API answers, without the slowness.
async fn asked(browser: &Browser, path: &str) -> Walk<Value> {
    browser.answer(path).await
}

/// Waits until the API says what is wanted.
async fn kept(browser: &Browser, path: &str, pointer: &str, wanted: f64) -> Walk {
    let holds = async || {
        let answer = asked(browser, path).await?;
        Ok(answer.pointer(pointer).and_then(Value::as_f64).is_some_and(|mm| (mm - wanted).abs() < 1e-9))
    };
    browser
        .wait_for(format!("{wanted} at {path} {pointer}"), holds)
        .await
        .map_err(|error| error.to_string().into())
}

fn cutting_table(name: &str, hand: Hand, size: (u32, u32)) {
    walk_as!(name, size, |browser| {
        browser.sign_in().await?;
        browser.go("/garments/3/alter").await?;
        browser.press("1. Full bust").await?;
        browser.field("Amount").await?;
        browser.slow(LATE).await?;
        // 0.9 cm in an inch house: no fraction of the house's own says it.
        match hand {
            // Enter in the amount reads it; the version is saved from its own field.
            Hand::Enter => {
                let field = browser.field("Amount").await?;
                field.send_keys(Key::Control + "a").await?;
                field.send_keys("0.9 cm").await?;
                let why = browser.driver.find(By::Id("why")).await?;
                why.send_keys(Key::Enter + "").await?;
            }
            _ => type_and_press(&browser, hand, "Amount", "0.9 cm", "Save version").await?,
        }
        browser.see("Print version 1").await?;
        kept(&browser, "/api/patterns/1", "/versions/0/recipe/steps/0/amounts/amount", 9.0).await?;
        kept(&browser, "/api/patterns/1", "/recipe/steps/0/amounts/amount", 9.0).await?;
    });
}

#[test]
fn the_amount_typed_last_is_the_amount_of_the_version_by_mouse() {
    cutting_table("version_mouse", Hand::Mouse, (1280, 900));
}

#[test]
fn the_amount_typed_last_is_the_amount_of_the_version_by_enter() {
    cutting_table("version_enter", Hand::Enter, (1280, 900));
}

#[test]
fn the_amount_typed_last_is_the_amount_of_the_version_by_thumb() {
    cutting_table("version_thumb", Hand::Thumb, (390, 844));
}

fn wishes(name: &str, hand: Hand, size: (u32, u32)) {
    walk_as!(name, size, |browser| {
        browser.sign_in().await?;
        browser.go("/garments/3/wishes").await?;
        browser.see("Nothing is wished yet.").await?;
        let before = outlines(&browser).await?;
        browser.fill("Neckline depth in front", "5").await?;
        browser.see("A neckline 5 in deep in front.").await?;
        let drawn = async || Ok(outlines(&browser).await? != before);
        browser.wait_for("the drawing follows what is typed", drawn).await?;
        browser.slow(LATE).await?;
        let write = "Write down, and to the cutting table";
        type_and_press(&browser, hand, "Neckline width", "7.31 in", write).await?;
        if matches!(hand, Hand::Enter) {
            // Enter reads the field; the button is pressed for itself.
            browser.press(write).await?;
        }
        browser.headed("Cutting table").await?;
        browser.see("Neckline to her wish").await?;
        let pattern = asked(&browser, "/api/patterns/1").await?;
        let steps = pattern.pointer("/recipe/steps").and_then(Value::as_array).cloned().unwrap_or_default();
        let wished: Vec<&Value> = steps.iter().filter(|step| step["alteration"] == "neckline").collect();
        let [step] = wished[..] else { return Err(format!("one neckline: {steps:?}").into()) };
        for (code, wanted) in [("amount", 127.0), ("width", 7.31 * 25.4)] {
            let mm = step["amounts"][code].as_f64().unwrap_or_default();
            if (mm - wanted).abs() > 1e-9 {
                return Err(format!("{code} is {mm}, not {wanted}").into());
            }
        }
        // Her card has the very same.
        browser.go("/garments/3/wishes").await?;
        let client = asked(&browser, "/api/orders/3").await?["client_id"].clone();
        let card = asked(&browser, &format!("/api/clients/{client}/profile")).await?;
        let figures = card["figures"].as_array().cloned().unwrap_or_default();
        let width = figures.iter().find(|figure| figure["code"] == "neck_width");
        let mm = width.and_then(|figure| figure["mm"].as_f64()).unwrap_or_default();
        if (mm - 7.31 * 25.4).abs() > 1e-9 {
            return Err(format!("her card says {mm}").into());
        }
    });
}

/// The outlines that are drawn, as the page has them.
async fn outlines(browser: &Browser) -> Walk<Value> {
    browser.ask("return [...document.querySelectorAll('main svg path')].map((path) => path.getAttribute('d')).join()").await
}

#[test]
fn a_wish_typed_last_is_written_down_by_mouse() {
    wishes("wish_mouse", Hand::Mouse, (1280, 900));
}

#[test]
fn a_wish_typed_last_is_written_down_by_enter() {
    wishes("wish_enter", Hand::Enter, (1280, 900));
}

#[test]
fn a_wish_typed_last_is_written_down_by_thumb() {
    wishes("wish_thumb", Hand::Thumb, (390, 844));
}

#[test]
fn an_alteration_by_hand_takes_the_amount_typed_last() {
    walk_as!("by_hand_slow", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/5/fit").await?;
        for (index, (place, hand)) in
            [("side seam", Hand::Mouse), ("front waist", Hand::Enter), ("sleeve cap", Hand::Thumb)]
                .into_iter()
                .enumerate()
        {
            let _ = index;
            browser.slow(0).await?;
            browser.tap_place(place).await?;
            browser.choose("Gape").await?;
            browser.press("Keep this observation").await?;
            let title = format!("Gape at {place}");
            browser.see(&title).await?;
            browser.press_within(&format!("Decide: {title}"), "Alter by hand").await?;
            browser.pick("Alteration", "Shoulder length").await?;
            browser.slow(LATE).await?;
            type_and_press(&browser, hand, "Amount, per half or per seam", "5/8", "Decide this alteration")
                .await?;
            browser.see_no_more("Decide this alteration").await?;
            let round = asked(&browser, "/api/orders/5").await?["round_id"].clone();
            let round = asked(&browser, &format!("/api/rounds/{round}")).await?;
            let seen = round["observations"].as_array().cloned().unwrap_or_default();
            let said = seen.iter().find(|o| o["seen"]["place"] == place && !o["decision"].is_null());
            let amount = said.and_then(|o| o.pointer("/decision/amounts/amount").and_then(Value::as_f64));
            if amount != Some(15.875) {
                return Err(format!("{place}: {amount:?} was kept for 5/8 in").into());
            }
        }
    });
}

#[test]
fn the_pattern_begins_with_the_amount_typed_last() {
    for (name, hand, size) in
        [("begin_mouse", Hand::Mouse, (1280, 900)), ("begin_thumb", Hand::Thumb, (390, 844))]
    {
        walk_as!(name, size, |browser| {
            browser.sign_in().await?;
            browser.go("/garments/2/compare").await?;
            browser.press("To the plan").await?;
            browser.headed("Plan").await?;
            browser.field("Full bust").await?;
            browser.slow(LATE).await?;
            type_and_press(&browser, hand, "Full bust", "1 1/8", "Begin the pattern").await?;
            browser.headed("Cutting table").await?;
            let order = asked(&browser, "/api/orders/2").await?;
            let recipe = asked(&browser, &format!("/api/patterns/{}", order["pattern_id"])).await?;
            let steps = recipe["recipe"]["steps"].as_array().cloned().unwrap_or_default();
            let amounts =
                steps.iter().find(|step| step["alteration"] == "full_bust").map(|step| &step["amounts"]);
            let mm = amounts.and_then(|amounts| amounts["amount"].as_f64()).unwrap_or_default();
            if (mm - 28.575).abs() > 1e-6 {
                return Err(format!("the full bust holds {amounts:?}, not 28.575").into());
            }
        });
    }
}

#[test]
fn a_constant_of_the_house_is_kept_as_it_was_typed() {
    for (name, hand, text, mm) in [
        ("house_mouse", Hand::Mouse, "3/4", 19.05),
        ("house_enter", Hand::Enter, "3/8", 9.525),
        ("house_thumb", Hand::Thumb, "1,1 cm", 11.0),
    ] {
        walk_as!(name, (1280, 900), |browser| {
            browser.sign_in().await?;
            browser.go("/house").await?;
            browser.field("One finger under the tape").await?;
            browser.slow(LATE).await?;
            type_and_press(&browser, hand, "One finger under the tape", text, "Save how we measure").await?;
            browser.see("Saved.").await?;
            kept(&browser, "/api/house", "/measuring/finger_mm", mm).await?;
        });
    }
}

#[test]
fn the_sheet_is_printed_with_the_allowance_typed_last() {
    walk_as!("print_slow", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/4/toile").await?;
        browser.field("Hem allowance").await?;
        browser.slow(LATE).await?;
        // Too wide: said where it is typed, and no page of another kind opens.
        type_and_press(&browser, Hand::Mouse, "Side seam allowance", "100", "SVG in millimetres").await?;
        browser.see("100 in does not fit here: give between 0 and 2 3/8 in").await?;
        browser.headed("Toile").await?;
        // What the link would fetch is written down instead of fetched.
        browser
            .ask("window.fetched = []; navigation.addEventListener('navigate', (e) => { window.fetched.push(e.destination.url); e.preventDefault() })")
            .await?;
        type_and_press(&browser, Hand::Mouse, "Side seam allowance", "7/8", "SVG in millimetres").await?;
        let fetched = async || {
            let urls = browser.ask("return window.fetched").await?;

            Ok(urls.to_string().contains("side=22.22"))
        };
        browser.wait_for("the sheet with 7/8 in at the side", fetched).await?;
    });
}

#[test]
fn ease_on_the_tape_typed_last_belongs_to_the_reading() {
    walk_as!("ease_slow", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/1/measure").await?;
        browser.headed("Side length").await?;
        browser.press("Taken how?").await?;
        browser.slow(LATE).await?;
        browser.fill("Side length, inches", "8").await?;
        type_and_press(&browser, Hand::Mouse, "Ease on the tape", "1/2", "Save and next").await?;
        browser.see("8 of 16 taken").await?;
        let order = asked(&browser, "/api/orders/1").await?;
        let session = asked(&browser, &format!("/api/sessions/{}", order["open_session"])).await?;
        let row = session["rows"]
            .as_array()
            .and_then(|rows| rows.iter().find(|r| r["measurement"]["code"] == "side_length"));
        let ease = row.and_then(|r| r.pointer("/entries/0/takes/0/taken/ease_mm").and_then(Value::as_f64));
        if ease != Some(12.7) {
            return Err(format!("{ease:?} was kept for 1/2 in of ease").into());
        }
    });
}

/// Presses a button twice, as a nervous finger does.
async fn press_twice(browser: &Browser, name: &str) -> Walk {
    const PRESS: &str = "
        const nameOf = (e) => (e.getAttribute('aria-label') ?? e.innerText ?? '').trim().replace(/\\s+/g, ' ')
        const button = [...document.querySelectorAll('button')].find((e) => e.getClientRects().length && nameOf(e) === arguments[0])
        if (!button) return false
        button.click(); button.click(); setTimeout(() => button.click(), 40); setTimeout(() => button.click(), 180)
        return true";
    let pressed =
        async || Ok(browser.driver.execute(PRESS, vec![json!(name)]).await?.json().as_bool() == Some(true));
    browser.wait_for(format!("a button {name}"), pressed).await
}

#[test]
fn a_double_press_saves_once() {
    for (name, late) in [("twice_fast", 0), ("twice_slow", LATE)] {
        walk_as!(name, (1280, 900), |browser| {
            browser.sign_in().await?;
            browser.slow(late).await?;
            // A client.
            browser.press("Clients").await?;
            browser.press("Add a client").await?;
            browser.fill("Name", "Hedda Twice").await?;
            press_twice(&browser, "Save client").await?;
            browser.headed("Hedda Twice").await?;
            let found = asked(&browser, "/api/clients?q=Hedda").await?;
            let count = found["items"].as_array().map_or(0, Vec::len);
            let id = found["items"][0]["id"].clone();
            // Her consent, then a change of her entry: neither is “changed by somebody else”.
            browser.press("Record consent").await?;
            press_twice(&browser, "Save consent").await?;
            browser.see_no_more("Save consent").await?;
            browser.press("Edit").await?;
            browser.fill("Telephone or address", "020 555 0199").await?;
            press_twice(&browser, "Save").await?;
            browser.see("020 555 0199").await?;
            browser.see_no_more("changed by somebody else").await?;
            let client = asked(&browser, &format!("/api/clients/{id}")).await?;
            let consents = client["consents"].as_array().map_or(0, Vec::len);
            // An order.
            browser.press("New garment").await?;
            browser.fill("Garment", "Waistcoat").await?;
            press_twice(&browser, "Take it in hand and measure").await?;
            browser.headed("Measure").await?;
            let client = asked(&browser, &format!("/api/clients/{id}")).await?;
            let orders = client["orders"].as_array().map_or(0, Vec::len);
            // A version, the house, her own block.
            browser.go("/garments/3/alter").await?;
            press_twice(&browser, "Save version").await?;
            browser.see("Print version 1").await?;
            let pattern = asked(&browser, "/api/patterns/1").await?;
            let versions = pattern["versions"].as_array().map_or(0, Vec::len);
            browser.go("/house").await?;
            browser.fill("Name of the house", "Twice pressed").await?;
            press_twice(&browser, "Save").await?;
            browser.see("Saved.").await?;
            browser.see_no_more("changed by somebody else").await?;
            if (count, consents, orders, versions) != (1, 1, 1, 1) {
                return Err(format!(
                    "{count} clients, {consents} consents, {orders} orders, {versions} versions were saved"
                )
                .into());
            }
        });
    }
}

#[test]
fn a_dialog_closed_by_a_click_beside_it_asks_first() {
    walk_as!("beside", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.press("Clients").await?;
        browser.press("Add a client").await?;
        // It opens in its first field.
        let first =
            async || Ok(browser.ask("return document.activeElement?.id").await?.as_str() == Some("name"));
        browser.wait_for("the focus in the first field", first).await?;
        browser.type_keys("Half written").await?;
        browser.driver.action_chain().move_to(8, 400).click().perform().await?;
        browser.see("Leave without saving?").await?;
        browser.press("Keep writing").await?;
        browser.see_no_more("Leave without saving?").await?;
        let name = browser.ask("return document.querySelector('#name').value").await?;
        if name.as_str() != Some("Half written") {
            return Err(format!("the dialog lost {name}").into());
        }
        // Half an observation is asked about too.
        browser.go("/garments/5/fit").await?;
        browser.tap_place("side seam").await?;
        browser.press("Today").await?;
        browser.see("Leave without saving?").await?;
        browser.press("Throw it away").await?;
        browser.see("Garments in hand").await?;
    });
}

#[test]
fn what_cannot_be_is_not_saved_by_enter_alone() {
    walk_as!("cannot_be", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/1/measure").await?;
        browser.headed("Side length").await?;
        browser.slow(LATE).await?;
        // Enter before any doubt was answered: the server turns it down and the text comes back.
        browser.type_keys(String::from("90") + Key::Enter).await?;
        browser.see("90 in cannot be a body\u{2019}s side length").await?;
        browser.headed("Side length").await?;
        browser.fill("If it stands all the same, your initials", "MH").await?;
        browser.press("It stands").await?;
        browser.see("8 of 16 taken").await?;
        let order = asked(&browser, "/api/orders/1").await?;
        let session = asked(&browser, &format!("/api/sessions/{}", order["open_session"])).await?;
        let text = session.to_string();
        if !text.contains("\"stands\":\"MH\"") {
            return Err("the initials were not kept".into());
        }
    });
}
