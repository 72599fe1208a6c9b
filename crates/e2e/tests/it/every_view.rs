//! Each view under axe-core, by day and by evening, and the standing work at 390 px.

use yardwand_e2e::{Browser, Walk, walk_as};

const VIEWS: [(&str, &str); 40] = [
    ("/", "Garments in hand"),
    ("/clients", "Search by any part of name"),
    ("/clients/5", "Her story"),
    ("/clients/5/figures", "Her figures now"),
    ("/clients/5/history", "Session by session"),
    ("/sessions/1", "Save and next"),
    ("/forms", "Dress forms"),
    ("/forms/1", "Padding for a client"),
    ("/guide", "Ankle girth"),
    ("/import", "Readings from a file"),
    ("/tape?token=none", "Stand-in tape"),
    ("/clients/2/draft", "Her own block"),
    ("/blocks", "House master, bodice"),
    ("/blocks/1", "Before you cut"),
    ("/blocks/2", "Before you cut"),
    ("/blocks/draft", "Before you cut"),
    ("/blocks/card", "Keep the card"),
    ("/blocks/tables", "A table of our own"),
    ("/house", "19 of 20 within"),
    ("/house/people", "Ask somebody in"),
    ("/house/changes", "As a file"),
    ("/glossary", "walk a seam"),
    ("/garments/5/beside/4", "Laid over each other"),
    ("/me", "Where you are signed in"),
    ("/welcome/no-such-link", "this link was used already"),
    ("/garments/1/measure", "Save and next"),
    ("/garments/2/compare", "Client against block"),
    ("/garments/2/plan", "Figures after the plan"),
    ("/garments/3/wishes", "Neckline depth in front"),
    ("/garments/3/alter", "Recipe"),
    ("/garments/4/toile", "Fit it"),
    ("/garments/5/fit", "Seen in this round"),
    ("/story/no-such-link", "this link has ended"),
    ("/garments/5/story", "From round to round"),
    ("/garments/5/dates", "As they stand"),
    ("/garments/6/cut", "Into her own block"),
    ("/calendar", "iCalendar file"),
    ("/letters", "No mail server is set"),
    ("/level", "Mark a hem from the floor"),
    ("/practice", "What do you see at A?"),
];

async fn clean(browser: &Browser, faults: &mut Vec<String>) -> Walk {
    for (path, words) in VIEWS {
        browser.go(path).await?;
        browser.see(words).await?;
        faults.extend(browser.axe().await?.into_iter().map(|fault| format!("{path}: {fault}")));
    }
    Ok(())
}

#[test]
fn every_view_is_clean_under_axe_by_day_and_by_evening() {
    walk_as!("axe", (1280, 800), |browser| {
        browser.go("/sign-in").await?;
        browser.see("Sign in").await?;
        let mut faults = browser.axe().await?;
        browser.sign_in().await?;
        clean(&browser, &mut faults).await?;
        browser.press("Evening").await?;
        clean(&browser, &mut faults).await?;
        if !faults.is_empty() {
            return Err(faults.join("\n").into());
        }
    });
}

/// Every view clean under axe at this width, and none wider than the window.
async fn fits_the_phone(browser: &Browser) -> Walk {
    let mut faults = Vec::new();
    for (path, words) in VIEWS {
        browser.go(path).await?;
        browser.see(words).await?;
        faults.extend(browser.axe().await?.into_iter().map(|fault| format!("{path}: {fault}")));
        let over = browser.ask("return document.documentElement.scrollWidth - innerWidth").await?;
        if over.as_i64().unwrap_or(999) > 0 {
            faults.push(format!("{path} is {over} px wider than the phone"));
        }
    }
    if faults.is_empty() { Ok(()) } else { Err(faults.join("\n").into()) }
}

#[test]
fn every_view_is_clean_on_the_phone_in_the_evening() {
    walk_as!("phone_evening", (390, 844), |browser| {
        browser.sign_in().await?;
        browser.press("Evening").await?;
        browser.see("Day").await?;
        fits_the_phone(&browser).await?;
    });
}

#[test]
fn measuring_and_fitting_work_by_thumb_at_390_px() {
    walk_as!("phone", (390, 844), |browser| {
        browser.sign_in().await?;
        fits_the_phone(&browser).await?;
        browser.go("/garments/1/measure").await?;
        browser.fill("Side length", "7").await?;
        browser.press("1/2").await?;
        browser.press("Save and next").await?;
        browser.see("8 of 16 taken").await?;
        browser.see("Across front, inches").await?;
        browser.go("/garments/5/fit").await?;
        browser.tap_place("side seam").await?;
        browser.choose("Swing").await?;
        browser.press("Keep this observation").await?;
        browser.see("Swing at side seam").await?;
        browser.press_within("Decide: Swing at side seam", "Watch").await?;
        browser.see("Watched").await?;
    });
}

/// The pages of a garment's way, each with its next step.
const NEXT_STEPS: [(&str, &str); 8] = [
    ("/garments/1/measure", "Review, the rest later"),
    ("/garments/2/compare", "To the plan: 3 lines"),
    ("/garments/2/plan", "Begin the pattern from size 12 with 3 alterations"),
    ("/garments/3/alter", "Save version"),
    ("/garments/4/toile", "PDF in tiles"),
    ("/garments/4/toile", "Open fitting round 1"),
    ("/garments/5/fit", "Keep this observation"),
    ("/garments/6/cut", "Take it up again"),
];

#[test]
fn the_next_step_of_every_page_is_in_sight_without_scrolling() {
    walk_as!("next_step", (1280, 800), |browser| {
        browser.sign_in().await?;
        let mut hidden = Vec::new();
        for (width, height) in [(1280, 800), (390, 844)] {
            browser.resize(width, height).await?;
            for (path, name) in NEXT_STEPS {
                browser.go(path).await?;
                browser.see(name).await?;
                let script = format!(
                    "const button = [...document.querySelectorAll('main button, main a')].find(e => e.textContent.trim() === '{name}');\
                     const box = button.getBoundingClientRect();\
                     const over = document.elementFromPoint(box.x + box.width / 2, box.y + box.height / 2);\
                     return scrollY === 0 && box.bottom <= innerHeight && button.contains(over)"
                );
                if browser.ask(&script).await? != true {
                    hidden.push(format!("{path}: {name} at {width} px"));
                }
            }
        }
        if !hidden.is_empty() {
            return Err(hidden.join("\n").into());
        }
    });
}

#[test]
fn what_goes_wrong_is_said_and_nothing_is_lost() {
    walk_as!("wrong", (1280, 800), |browser| {
        browser.go("/garments/1/measure").await?;
        browser.fill("E-mail address", "marit@workroom.example").await?;
        browser.fill("Password", "no").await?;
        browser.press("Sign in").await?;
        browser.see("do not belong together").await?;
        browser.fill("Password", "chalk and ink").await?;
        browser.press("Sign in").await?;
        // Back at the page that was asked for.
        browser.fill("Side length", "17 3/7").await?;
        browser.see("a tape has no 1/7").await?;
        browser.press("Save and next").await?;
        // It stays where it is, with what was typed.
        browser.headed("Side length").await?;
        let typed = browser.ask("return document.querySelector('#reading').value").await?;
        if typed.as_str() != Some("17 3/7") {
            return Err(format!("the field lost what was typed: {typed}").into());
        }
        browser.fill("Side length", "19").await?;
        browser.see("looks like the other unit").await?;
        browser.press("Take 19 cm").await?;
        browser.press("Save and next").await?;
        browser.see("8 of 16 taken").await?;
        // An amount beyond the hinge is refused with the limit, and the pattern stays.
        browser.go("/garments/3/alter").await?;
        browser.press("1. Full bust").await?;
        browser.fill("Amount", "4 1/2").await?;
        browser.type_keys(thirtyfour::Key::Tab + "").await?;
        browser.see("is more than the").await?;
        browser.press("Undo").await?;
        browser.see_no_more("is more than the").await?;
        browser.go("/clients/999").await?;
        browser.see("there is no client with the number 999").await?;
    });
}
