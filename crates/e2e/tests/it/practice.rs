//! The practice room: a whole exercise by the keyboard, and one by thumb on a phone.

use thirtyfour::prelude::*;
use yardwand_e2e::{Browser, Walk, walk_as};

/// The step that is asked, in words.
async fn asked(browser: &Browser) -> Walk<String> {
    Ok(browser.driver.find(By::Css(".asked h2")).await?.text().await?)
}

/// Waits until another step than this one is asked.
async fn after(browser: &Browser, step: &str) -> Walk<String> {
    browser.wait_for(format!("the step after “{step}”"), async || Ok(asked(browser).await? != step)).await?;
    asked(browser).await
}

#[test]
fn a_whole_exercise_goes_by_the_keyboard_and_the_next_one_is_another() {
    walk_as!("practice_keys", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.press("Practice").await?;
        browser.see("What do you see at A?").await?;
        let first = browser.driver.find(By::Css(".on-her p")).await?.text().await?;
        let mut step = asked(&browser).await?;
        for _ in 0..3 {
            browser.type_keys("2").await?;
            browser
                .wait_for("it is judged", async || {
                    Ok(browser.driver.query(By::Css(".asked .verdict")).nowait().exists().await?)
                })
                .await?;
            // A second choice changes nothing.
            browser.type_keys("1").await?;
            let chosen = browser.driver.find_all(By::Css(".asked button[aria-pressed=true]")).await?;
            assert_eq!(chosen.len(), 1, "{step}");
            browser.type_keys(Key::Enter + "").await?;
            step = after(&browser, &step).await?;
        }
        if step == "How much?" {
            browser.type_keys("1/2").await?;
            browser.type_keys(Key::Enter + "").await?;
            browser.see("It is ").await?;
            browser.type_keys(Key::Enter + "").await?;
            after(&browser, &step).await?;
        }
        browser.see("What else must follow?").await?;
        browser.type_keys("1").await?;
        browser.type_keys("3").await?;
        browser.type_keys("3").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see("What it was").await?;
        browser.see("How to tell it.").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser
            .wait_for("another exercise", async || {
                Ok(browser.driver.find(By::Css(".on-her p")).await?.text().await? != first)
            })
            .await?;
        browser.see("What do you see at A?").await?;
        browser.choose("How far you are").await?;
        browser.see("1 exercise done").await?;
    });
}

#[test]
fn a_fitting_and_a_tape_go_by_thumb_on_a_phone() {
    walk_as!("practice_phone", (390, 844), |browser| {
        browser.sign_in().await?;
        browser.press("Practice").await?;
        browser.see("What do you see at A?").await?;
        // On a line that goes, nothing is taken for answered: it is given again when the line is back.
        browser.cut_requests(true).await?;
        let first = browser.driver.find_all(By::Css(".asked ol button")).await?;
        browser.tap(&first[1]).await?;
        browser
            .wait_for("why it is not judged", async || {
                Ok(browser.driver.query(By::Css(".asked [role=alert]")).nowait().exists().await?)
            })
            .await?;
        browser.cut_requests(false).await?;
        let thumb = async |at: usize| -> Walk {
            let buttons = browser.driver.find_all(By::Css(".asked ol button")).await?;
            browser.tap(&buttons[at]).await?;
            browser
                .wait_for("it is judged", async || {
                    Ok(browser.driver.query(By::Css(".asked .verdict")).nowait().exists().await?)
                })
                .await
        };
        let mut step = asked(&browser).await?;
        for _ in 0..3 {
            thumb(0).await?;
            browser.press("On").await?;
            step = after(&browser, &step).await?;
        }
        if step == "How much?" {
            let field = browser.driver.find(By::Css(".asked input")).await?;
            field.send_keys("3/8").await?;
            browser.press("That much").await?;
            browser.see("It is ").await?;
            browser.press("On").await?;
        }
        browser.see("What else must follow?").await?;
        browser.press("That is all").await?;
        browser.see("What it was").await?;
        browser.choose("A tape").await?;
        browser.see("What does the tape say at the pin").await?;
        browser.fill("The tape says", "33").await?;
        browser.press("That is it").await?;
        browser.see("It reads ").await?;
        browser.press("Another one").await?;
        browser.see("One of these tapes does not lie where it should").await?;
        let over = browser.ask("return document.documentElement.scrollWidth - innerWidth").await?;
        assert!(over.as_i64().unwrap_or(999) <= 0, "{over} px wider than the phone");
    });
}
