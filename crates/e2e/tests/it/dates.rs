//! The calendar as it is used: a garment's dates, her days, the house's, and what the house has learnt.

use thirtyfour::{Key, WebElement};
use yardwand_e2e::{Browser, Walk, walk_as};

/// Types a day into a date field, so many days after the one it holds; `d` is that day.
async fn later(browser: &Browser, field: &WebElement, days: &str) -> Walk {
    let script = format!(
        "const d = arguments[0].value ? new Date(arguments[0].value) : new Date(); d.setDate(d.getDate() + ({days}));
         const [, month, day, year] = d.toDateString().split(' ')
         return `${{Number(day)}} ${{month}} ${{year}}`"
    );
    let day = browser.driver.execute(script, vec![field.to_json()?]).await?;
    let day = day.json().as_str().unwrap_or_default().to_owned();
    field.click().await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys(day.clone() + Key::Enter).await?;
    browser
        .wait_for(format!("the day {day}"), async || Ok(field.prop("value").await?.as_deref() == Some(&day)))
        .await
}

#[test]
fn dates_are_planned_moved_and_read_on_the_calendar() {
    walk_as!("dates", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.see("Who comes").await?;
        browser.see("Look again at: ").await?;
        browser.go("/garments/4/dates").await?;
        browser.press("Plan the dates").await?;
        browser.press("Keep these dates").await?;
        browser.see_no_more("Keep these dates").await?;
        // The second toile on the day of the first pushes nothing before today without a word.
        browser.press("Move toile 1").await?;
        let toile_2 = "return [...document.querySelectorAll('.visits li')].find((e) => e.innerText.toLowerCase().includes('toile 2')).innerText";
        let second = browser.ask(toile_2).await?;
        let field = browser.field("Move toile 1 to").await?;
        later(&browser, &field, "7").await?;
        browser.press("What would move?").await?;
        browser.see("Toile 2 moves from").await?;
        browser.press("Move it").await?;
        browser.see_no_more("Move it").await?;
        // The list is read again from the house once the date is kept.
        browser.wait_for("toile 2 to move", async || Ok(browser.ask(toile_2).await? != second)).await?;
        // A day on which the house is closed.
        browser.press("Move toile 2").await?;
        let field = browser.field("Move toile 2 to").await?;
        later(&browser, &field, "7 - d.getDay()").await?;
        browser.press("What would move?").await?;
        browser.see("The workroom is closed on Sunday").await?;
        browser.press("Calendar").await?;
        browser.headed("Calendar").await?;
        browser.see("Clara Wynn-Osei").await?;
        browser.press("Reminders").await?;
        browser.press("Write what is due").await?;
        browser.see("Dear Clara").await?;
    });
}

#[test]
fn her_days_are_typed_and_read_from_her_calendar() {
    walk_as!("her_days", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/clients/4").await?;
        browser.see("None known.").await?;
        browser.press("Add days").await?;
        later(&browser, &browser.field("From").await?, "9").await?;
        later(&browser, &browser.field("To").await?, "3").await?;
        browser.fill("Why, if she says", "on tour").await?;
        browser.press("Add these days").await?;
        browser.see("she comes back before she leaves").await?;
        later(&browser, &browser.field("To").await?, "9").await?;
        browser.press("Add these days").await?;
        browser.see("on tour").await?;
        // A calendar with nothing in it, and one with a day.
        let place = std::env::temp_dir().join(format!("yardwand-{}-her.ics", std::process::id()));
        std::fs::write(&place, "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n")?;
        browser.bring("Or from her calendar", &place).await?;
        browser.see("A field is wrong.").await?;
        browser.see("on tour").await?;
        std::fs::write(
            &place,
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:20260101T000000Z\r\n\
             DTSTART;VALUE=DATE:20330301\r\nDTEND;VALUE=DATE:20330304\r\nSUMMARY:Concert\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
        )?;
        browser.bring("Or from her calendar", &place).await?;
        browser.see("One time is new.").await?;
        browser.see("1 Mar 2033 to 3 Mar 2033").await?;
        browser.see_no_more("Concert").await?;
        browser.press("Take out 1 Mar 2033").await?;
        browser.see_no_more("1 Mar 2033 to").await?;
    });
}

#[test]
fn a_closed_time_of_the_house_stands_on_the_calendar() {
    walk_as!("closed", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.press("House").await?;
        browser.press("Add a closed time").await?;
        browser.fill_named("Closed time 1, why", "stocktaking").await?;
        browser.fill("One toile to the next", "900").await?;
        let most = "return document.querySelector('#gap-toile_to_toile').checkValidity()";
        browser.press("Save days and dates").await?;
        if browser.ask(most).await?.as_bool() != Some(false) {
            return Err("900 working days between toiles were taken".into());
        }
        browser.fill("One toile to the next", "6").await?;
        browser.press("Save days and dates").await?;
        browser.see("Saved.").await?;
        browser.press("Calendar").await?;
        browser.see("stocktaking").await?;
    });
}

#[test]
fn what_pins_made_of_plans_is_offered_at_the_cutting_table_and_taken_by_hand() {
    walk_as!("calibration", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/house").await?;
        browser.see("What pins made of plans").await?;
        browser.see("\u{d7} 1.30").await?;
        browser.go("/garments/3/alter").await?;
        browser.see("Recipe").await?;
        browser.press("Add an alteration").await?;
        browser.fill("Find", "rounded").await?;
        browser.press("Rounded back").await?;
        let in_hand = "return document.querySelector('.step.inhand .name')?.innerText ?? ''";
        let holds =
            async || Ok(browser.ask(in_hand).await?.as_str().is_some_and(|name| name.contains("Rounded")));
        browser.wait_for("the step to be in hand", holds).await?;
        browser.fill("Amount", "3/8").await?;
        browser.type_keys(thirtyfour::Key::Tab + "").await?;
        browser.see("in the end it came to 1.30 times the planned amount (over 6").await?;
        browser.press("Make it \u{d7} 1.30").await?;
        // It is a decision of its own, taken once; one step of undo brings the plan's own back.
        browser.see("3/8 + 1/8 = 1/2 in").await?;
        browser.see_no_more("Make it \u{d7} 1.30").await?;
        browser.press("Undo").await?;
        browser.see("Make it \u{d7} 1.30").await?;
    });
}

#[test]
fn a_hem_is_marked_from_the_floor_to_its_cutting_line() {
    walk_as!("hem", (390, 844), |browser| {
        browser.sign_in().await?;
        browser.press("Forms").await?;
        browser.press("Level lines and hems").await?;
        browser.headed("Level and hem").await?;
        browser.fill("Finished hem above the floor", "12").await?;
        browser.fill("Turned up below it", "1").await?;
        browser.fill_named("Edge above the floor at Front", "9").await?;
        browser.fill_named("Edge above the floor at Back", "9 x").await?;
        browser.press("Find the cutting line").await?;
        browser.see("is not part of a length").await?;
        browser.fill_named("Edge above the floor at Back", thirtyfour::Key::Backspace + "").await?;
        browser.fill_named("Edge above the floor at Back", "1/2").await?;
        browser.press("Find the cutting line").await?;
        browser.see("Measure up from the edge at each place").await?;
        // 12 less 9 to the hem, 1 less to the cut; behind half an inch less.
        let cut =
            "return [...document.querySelectorAll('td.changed')].map((e) => e.innerText.trim()).join('|')";
        browser
            .wait_for("the cutting line", async || Ok(browser.ask(cut).await?.as_str() == Some("2||1 1/2|")))
            .await?;
        browser.fill("Centre front", "40").await?;
        browser.fill("Centre back", "41").await?;
        browser.type_keys(thirtyfour::Key::Tab + "").await?;
        browser.see("Front less back").await?;
    });
}
