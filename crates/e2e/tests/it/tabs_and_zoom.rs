//! Two tabs of one browser, and a page at twice its size.

use thirtyfour::Key;
use yardwand_e2e::walk_as;

#[test]
fn a_second_tab_learns_of_changes_by_itself_and_keeps_what_is_typed() {
    walk_as!("tabs", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/clients").await?;
        browser.see("Clara Wynn-Osei").await?;
        let (list, other) = browser.another_tab("/house").await?;
        browser.fill("Name of the house", "The attic by the river").await?;
        browser.press("Save").await?;
        browser.see("Saved.").await?;
        browser.go("/clients").await?;
        browser.press("Add a client").await?;
        browser.fill("Name", "Nora Feldweg").await?;
        browser.press("Save client").await?;
        browser.headed("Nora Feldweg").await?;
        // The first tab shows her without being asked to.
        browser.driver.switch_to_window(list.clone()).await?;
        browser.see("Nora Feldweg").await?;
        // What is half typed over a form stays, whatever the other tab saves there.
        browser.go("/forms/1").await?;
        browser.fill("Bust girth, in", "36 1/8").await?;
        browser.driver.switch_to_window(other.clone()).await?;
        browser.go("/forms/1").await?;
        browser.fill("Waist girth, in", "29 1/8").await?;
        browser.press("Save the form").await?;
        browser.see("Saved.").await?;
        browser.driver.switch_to_window(list).await?;
        tokio::time::sleep(std::time::Duration::from_millis(900)).await;
        let typed = browser.field("Bust girth, in").await?.prop("value").await?;
        assert_eq!(typed.as_deref(), Some("36 1/8"));
        browser.press("Save the form").await?;
        browser.see("changed by somebody else").await?;
        let typed = browser.field("Bust girth, in").await?.prop("value").await?;
        assert_eq!(typed.as_deref(), Some("36 1/8"), "a refused save loses nothing");
    });
}

/// 1280 by 800 at 200 % is a page of 640 by 400.
#[test]
fn at_twice_the_size_the_button_that_saves_stays_in_sight() {
    walk_as!("zoom", (640, 400), |browser| {
        browser.sign_in().await?;
        for (page, open, first, save) in [
            ("/house", None, "Open on", "Save days and dates"),
            ("/house", None, "Fingers under the tape", "Save how we measure"),
            ("/forms/1", None, "Name", "Save the form"),
            ("/clients", Some("Add a client"), "Name", "Save client"),
        ] {
            browser.go(page).await?;
            if let Some(open) = open {
                browser.press(open).await?;
            }
            // Where a person begins: at the first field of the form.
            let script = format!(
                "const button = [...document.querySelectorAll('button[type=submit]')].find((e) => e.innerText.trim() === '{save}' && e.getClientRects().length)
                 const form = button?.closest('form')
                 form?.scrollIntoView({{ block: 'start' }})
                 const at = button?.getBoundingClientRect()
                 return at ? [at.top, at.bottom, innerHeight] : null"
            );
            browser
                .wait_for(format!("\u{201c}{save}\u{201d} in sight of {first}"), async || {
                    let seen = browser.ask(&script).await?;
                    let of = |index: usize| seen[index].as_f64();
                    Ok(match (of(0), of(1), of(2)) {
                        (Some(top), Some(bottom), Some(height)) => top >= 0.0 && bottom <= height + 1.0,
                        _ => false,
                    })
                })
                .await?;
            if open.is_some() {
                browser.type_keys(Key::Escape + "").await?;
            }
        }
    });
}
