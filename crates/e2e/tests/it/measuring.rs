//! Measuring as it is done: by keyboard, by thumb, on two devices, with a tape that speaks, on a bad line.

use thirtyfour::Key;
use yardwand_core::body::{Body, catalogue, measurement_set};
use yardwand_core::{Length, Style};
use yardwand_e2e::{Browser, Walk, walk_as};

/// The thirty readings of the dress set, as a tape gives them on a middle figure: name and text.
fn thirty() -> Vec<(String, String)> {
    let body = Body::middle().with("full_length", 1070.0);
    let codes = &measurement_set("dress").unwrap().codes;
    let rows = catalogue().iter().filter(|row| codes.contains(&row.code));
    let figure = |code: &str| {
        Style::EIGHTHS.write(Length::from_mm(body.get(code).unwrap_or_else(|| panic!("{code}"))))
    };
    rows.map(|row| (row.name.clone(), figure(&row.code))).collect()
}

/// Opens the dress set for a new client; the field is ready.
async fn begin(browser: &Browser) -> Walk {
    browser.sign_in().await?;
    browser.go("/clients").await?;
    browser.press("Add a client").await?;
    browser.fill("Name", "Greta Sundqvist").await?;
    browser.press("Save client").await?;
    browser.headed("Greta Sundqvist").await?;
    browser.press("Figures").await?;
    browser.see("No consent is written down").await?;
    browser.see("0 of 30 measured").await?;
    browser.press("Begin with this set").await?;
    // Nobody is measured before she has agreed.
    browser.see("has she agreed?").await?;
    browser.press("She agrees: go on").await?;
    browser.headed("Nape to waist, back").await
}

async fn path(browser: &Browser) -> Walk<String> {
    Ok(browser.ask("return location.pathname").await?.as_str().unwrap_or_default().to_owned())
}

async fn field_reads(browser: &Browser, wanted: &str) -> Walk {
    let ask = "return document.querySelector('#reading')?.value ?? ''";
    browser
        .wait_for(format!("the field to read {wanted}"), async || {
            Ok(browser.ask(ask).await?.as_str() == Some(wanted))
        })
        .await
}

#[test]
fn thirty_readings_by_keyboard_with_the_tab_closed_and_the_line_cut_in_between() {
    walk_as!("thirty_by_keyboard", (1280, 800), |browser| {
        begin(&browser).await?;
        let session = path(&browser).await?;
        for (index, (name, text)) in thirty().iter().enumerate() {
            browser.headed(name).await?;
            if index == 11 {
                // The tab is closed in the middle; another goes on where it was.
                let (before, after) = browser.another_tab(&session).await?;
                browser.driver.switch_to_window(before).await?;
                browser.driver.close_window().await?;
                browser.driver.switch_to_window(after).await?;
                browser.headed(name).await?;
                browser.see("11 of 30 taken").await?;
            }
            if index == 17 {
                browser.cut_line(true).await?;
            }
            if index == 20 {
                browser.see("3 readings are kept on this device").await?;
                browser.cut_line(false).await?;
                browser.see_no_more("kept on this device").await?;
            }
            browser.type_keys(text.as_str()).await?;
            browser.type_keys(Key::Enter + "").await?;
            browser.see(&format!("{} of 30 taken", index + 1)).await?;
        }
        // Each was saved once, in spite of the tries on the cut line.
        let takes = "
            const done = arguments[arguments.length - 1]
            fetch(`/api${location.pathname}`).then((r) => r.json()).then((s) =>
              done(s.rows.map((row) => row.entries.flatMap((e) => [...e.takes, ...e.corrected]).length)))";
        // The last one counts as taken while it is still on its way.
        browser
            .wait_for("one take of each reading", async || {
                let counted = browser.driver.execute_async(takes, Vec::new()).await?.json().clone();
                Ok(counted == serde_json::json!(vec![1; 30]))
            })
            .await?;
        browser.press("Review and close").await?;
        browser.press("Sign and close").await?;
        browser.see("30 of 30 measured").await?;
    });
}

#[test]
fn thirty_readings_by_taps_on_a_phone() {
    walk_as!("thirty_by_taps", (390, 844), |browser| {
        begin(&browser).await?;
        for (index, (name, text)) in thirty().iter().enumerate() {
            browser.headed(name).await?;
            for part in text.split(' ') {
                if part.contains('/') {
                    browser.press(part).await?;
                } else {
                    for digit in part.chars() {
                        browser.press(&digit.to_string()).await?;
                    }
                }
            }
            field_reads(&browser, text).await?;
            browser.press("Save and next").await?;
            browser.see(&format!("{} of 30 taken", index + 1)).await?;
        }
        browser.press("Review and close").await?;
        browser.press("Sign and close").await?;
        browser.see("30 of 30 measured").await?;
    });
}

#[test]
fn two_devices_see_each_other_and_one_is_told_when_it_comes_second() {
    walk_as!("two_devices", (1280, 800), |browser| {
        begin(&browser).await?;
        let (first, second) = browser.another_tab(&path(&browser).await?).await?;
        browser.headed("Nape to waist, back").await?;
        browser.driver.switch_to_window(first.clone()).await?;
        browser.type_keys(String::from("15 3/4") + Key::Enter).await?;
        browser.headed("Neck side to waist, back").await?;
        // The other device sees it without being asked, and is still at the first reading.
        browser.driver.switch_to_window(second.clone()).await?;
        browser.see("1 of 30 taken").await?;
        browser.see("Saved: 15 3/4, by Marit Holm").await?;
        // Both at one field: the later one is told, and gets its figure back.
        browser.cut_requests(true).await?;
        browser.press("Neck side to waist, back").await?;
        browser.type_keys(String::from("16 1/2") + Key::Enter).await?;
        browser.see("one reading is kept on this device").await?;
        browser.driver.switch_to_window(first).await?;
        browser.type_keys(String::from("16 3/8") + Key::Enter).await?;
        browser.see("2 of 30 taken").await?;
        browser.driver.switch_to_window(second).await?;
        // One word about the line, and one that is true.
        browser.see("one reading is kept on this device").await?;
        browser.see_no_more("The server cannot be reached").await?;
        browser.cut_requests(false).await?;
        browser.see("Marit Holm has entered 16 3/8 here in the meantime").await?;
        field_reads(&browser, "16 1/2").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.press("Neck side to waist, back").await?;
        browser.see("Corrected: 16 3/8").await?;
    });
}

#[test]
fn sides_repeats_notes_methods_and_doubts_are_kept_and_reviewed() {
    walk_as!("careful", (1280, 800), |browser| {
        begin(&browser).await?;
        // Left and right: l, then the right side follows by itself.
        browser.press("Shoulder length").await?;
        browser.headed("Shoulder length").await?;
        browser.type_keys("l").await?;
        browser.see("Shoulder length, left, inches").await?;
        browser.type_keys(String::from("5 1/8") + Key::Enter).await?;
        browser.see("Shoulder length, right, inches").await?;
        browser.type_keys("4 3/4").await?;
        browser.see("The left is 3/8 in more than the other side").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see("5 1/8 \u{b7} 4 3/4").await?;
        // Two takes too far apart ask for a third; the middle one counts.
        browser.press("Waist girth").await?;
        browser.headed("Waist girth").await?;
        browser.type_keys(String::from("28") + Key::Enter).await?;
        browser.press("Waist girth").await?;
        browser.see("Saved: 28").await?;
        browser.type_keys("r").await?;
        browser.type_keys("28 3/4").await?;
        browser.see("The two takes are 3/4 in apart").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see("once more").await?;
        browser.type_keys(String::from("28 1/4") + Key::Enter).await?;
        browser.press("Waist girth").await?;
        browser.see("the middle counts: 28 1/4").await?;
        // A way of measuring that has no honest conversion is asked for again.
        browser.press("Taken how?").await?;
        browser.pick("The waist is", "the navel").await?;
        browser.fill("Waist girth, inches", "33").await?;
        browser.see("measure at the tie").await?;
        browser.fill("Waist girth, inches", "").await?;
        browser.type_keys(Key::Backspace + "").await?;
        // A drop of a digit is doubted, kept, and stands by initials in the review.
        browser.press("Bust span").await?;
        browser.headed("Bust span").await?;
        browser.type_keys("n").await?;
        browser.fill("A word about this reading", "taken over the vest").await?;
        browser.fill("Bust span, inches", "13").await?;
        browser.see("Bust span is usually").await?;
        browser.press("Save and next").await?;
        browser.see("3 of 30 taken").await?;
        browser.press("Skip").await?;
        browser.fill("Why is it left out?", "she has a cold").await?;
        browser.press("Leave it out").await?;
        browser.press("Review, the rest later").await?;
        browser.see("One reading is doubtful").await?;
        browser.see("left out: she has a cold").await?;
        browser.press("It stands").await?;
        browser.see("No reading is in doubt").await?;
        browser.see("stands (MH)").await?;
    });
}

#[test]
fn a_held_tape_fills_the_field_and_comes_back_after_a_lost_line() {
    walk_as!("tape", (1280, 800), |browser| {
        begin(&browser).await?;
        browser.press("Pair a tape").await?;
        browser.see("sends what it reads with this word").await?;
        let token = browser.ask("return document.querySelector('.token').innerText").await?;
        let token = token.as_str().unwrap_or_default().to_owned();
        browser.type_keys(Key::Escape + "").await?;
        let (bench, tape) = browser.another_tab(&format!("/tape?token={token}")).await?;
        browser.headed("Stand-in tape").await?;
        let pull = |mm: u32| {
            format!(
                "const l = document.querySelector('#length'); l.value = '{mm}'; l.dispatchEvent(new Event('input'))"
            )
        };
        browser.pick("Trembling, mm", "0").await?;
        browser.ask(&pull(400)).await?;
        browser.press("Hold").await?;
        browser.driver.switch_to_window(bench.clone()).await?;
        field_reads(&browser, "15.750").await?;
        browser.see("Tape: 15.75").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see("1 of 30 taken").await?;
        // The tape loses its line: the bench says so, and the next hold after that counts again.
        browser.driver.switch_to_window(tape.clone()).await?;
        browser.press("Drop the connection").await?;
        browser.press("Hold").await?;
        browser.driver.switch_to_window(bench.clone()).await?;
        browser.see("The tape is silent").await?;
        field_reads(&browser, "").await?;
        browser.driver.switch_to_window(tape).await?;
        browser.press("Connect again").await?;
        browser.ask(&pull(419)).await?;
        browser.press("Hold").await?;
        browser.driver.switch_to_window(bench).await?;
        field_reads(&browser, "16.500").await?;
    });
}

#[test]
fn a_file_is_looked_at_mapped_saved_and_given_up() {
    walk_as!("import", (1280, 800), |browser| {
        browser.sign_in().await?;
        let place = std::env::temp_dir().join(format!("yardwand-import-{}.csv", std::process::id()));
        let mut lines = String::from("Who,Date,Bust,Waist\r\n");
        for day in 1..=20 {
            lines += &format!(
                "Nora Testa,2025-03-{day:02},88.5,{}\r\n",
                if day == 7 { "seventy".into() } else { format!("7{}", day % 10) }
            );
        }
        std::fs::write(&place, lines)?;
        browser.go("/import").await?;
        browser.bring("CSV or JSON file", &place).await?;
        browser.see("say which column holds the client").await?;
        browser.pick("Who", "Client").await?;
        browser.see("38 readings of 1 client from 20 lines").await?;
        browser.see("1 line is left out").await?;
        browser.see("Line 8, Waist").await?;
        browser.see("88.5 cm").await?;
        browser.press("Save 38 readings").await?;
        browser.see("38 readings are in the book").await?;
        // The same file again: the mapping is remembered, and nothing is new.
        browser.bring("CSV or JSON file", &place).await?;
        browser.see("38 readings are known already").await?;
        browser.press("Give it up").await?;
        browser.see("nothing of this file is in the book").await?;
        std::fs::remove_file(place)?;
        browser.go("/clients").await?;
        browser.press("Nora Testa").await?;
        browser.press("History").await?;
        browser.see("Two sessions side by side").await?;
        browser.press("Figures").await?;
        browser.press("Erase this client").await?;
        let name = browser.driver.active_element().await?;
        name.send_keys("Nora Testa").await?;
        browser.press("Erase for ever").await?;
        browser.headed("Clients").await?;
        browser.see_no_more("Nora Testa").await?;
    });
}
