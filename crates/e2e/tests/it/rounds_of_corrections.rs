//! A garment's life of corrections in the browser: a princess line first and three fitting rounds after it; a dress with a full
//! bust.

use thirtyfour::Key;
use yardwand_e2e::{Browser, Walk, walk_as};

/// The recipe's steps by name, in their order.
async fn recipe(browser: &Browser) -> Walk<String> {
    let names = "return [...document.querySelectorAll('.step .name')].map((b) => b.innerText).join('; ')";
    Ok(browser.ask(names).await?.as_str().unwrap_or_default().to_owned())
}

async fn recipe_reads(browser: &Browser, words: &str) -> Walk {
    let holds = async || Ok(recipe(browser).await? == words);
    browser.wait_for(format!("the recipe to read {words}"), holds).await
}

/// Decides one drag of the sleeve cap, pinned by so much, by the cause that is thought of first.
async fn takes_shoulder_length(browser: &Browser, pinned: &str) -> Walk {
    browser.press("Seen").await?;
    browser.draw_line("sleeve cap", "shoulder tip").await?;
    browser.choose("Drag").await?;
    browser.fill("How much is pinned", pinned).await?;
    browser.choose("tuck or opening, once").await?;
    browser.press("Keep this observation").await?;
    browser.see("Drag at sleeve cap towards shoulder tip").await?;
    browser.press("Take shoulder length").await?;
    browser.see(&format!("Shoulder length {pinned} in on the seam")).await
}

/// Level lines of which the back rises by half an inch, and the rounded back that levels it.
async fn takes_a_rounded_back(browser: &Browser) -> Walk {
    browser.press("Lines").await?;
    for (station, height) in
        [("Centre front", "41 1/2"), ("Her left", "41 1/2"), ("Her right", "41 1/2"), ("Centre back", "42")]
    {
        browser.fill(station, height).await?;
        browser.type_keys(Key::Tab + "").await?;
    }
    browser.press("Take rounded back").await?;
    browser.see("Taken").await
}

async fn closes_round(browser: &Browser, number: u32, says: &str) -> Walk {
    browser.press("Close").await?;
    browser.press(&format!("Close round {number}")).await?;
    browser.see(says).await
}

async fn opens_round(browser: &Browser, number: u32) -> Walk {
    browser.press(&format!("Open fitting round {number}")).await?;
    browser.headed(&format!("Fitting round {number}")).await
}

#[test]
fn a_princess_garment_goes_through_three_rounds() {
    walk_as!("princess_rounds", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/4/alter").await?;
        browser.headed("Cutting table").await?;
        browser.press("Add an alteration").await?;
        browser.fill("Find", "princess").await?;
        browser.press("Princess line").await?;
        browser.see("Facings and linings of the front are divided").await?;
        browser.press("Save version").await?;
        browser.headed("Toile").await?;
        browser.fill("What she wears", "Her foundation, flat shoes").await?;

        opens_round(&browser, 1).await?;
        takes_shoulder_length(&browser, "1/4").await?;
        closes_round(&browser, 1, "It made version 3 of the pattern.").await?;

        browser.press("Cut the next toile").await?;
        opens_round(&browser, 2).await?;
        browser.press_within("Earlier: Drag at sleeve cap towards shoulder tip", "Better").await?;
        takes_a_rounded_back(&browser).await?;
        closes_round(&browser, 2, "It made version 4 of the pattern.").await?;

        // The same as in round 1 once more: it is added to that step.
        browser.press("Cut the next toile").await?;
        opens_round(&browser, 3).await?;
        browser.press_within("Earlier: Drag at sleeve cap towards shoulder tip", "Gone").await?;
        browser.press_within("Earlier: Hike at back waist", "Gone").await?;
        takes_shoulder_length(&browser, "1/8").await?;
        closes_round(&browser, 3, "It made version 5 of the pattern.").await?;

        browser.go("/garments/4/alter").await?;
        browser.headed("Cutting table").await?;
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length; 4. Princess line").await?;
        browser.press("3. Shoulder length").await?;
        // What the plan asked for and what two rounds of pins said, as one step and one sum.
        browser.see("\u{2212}1/4 + 1/4 + 1/8 = 1/8 in").await?;
        browser.see("Round 1, Marit Holm").await?;
        browser.see("Round 3, Marit Holm").await?;
        // One decision taken back by itself; the others stay.
        browser.press("Take this back").await?;
        browser.see_no_more("Round 1, Marit Holm").await?;
        browser.see("\u{2212}1/4 + 1/8 = \u{2212}1/8 in").await?;
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length; 4. Princess line").await?;
    });
}

#[test]
fn a_dress_takes_a_full_bust_to_the_hem_or_back_at_the_hip() {
    walk_as!("dress_full_bust", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/2/compare").await?;
        browser.headed("Compare").await?;
        browser.see("Which size to start from").await?;
        // Chosen and pressed at once on a slow line: the plan starts from the block that was chosen.
        browser.slow(400).await?;
        browser.pick("Block", "Concert dress to the hip").await?;
        browser.press("To the plan").await?;
        browser.headed("Plan").await?;
        browser.see("Concert dress to the hip").await?;
        browser.slow(0).await?;
        browser.press("Begin the pattern").await?;
        browser.headed("Cutting table").await?;
        browser.press("1. Full bust").await?;
        browser.see("runs out to the hem").await?;
        // What one half gains goes down to the hem: twice that all round.
        let hip = "return [...document.querySelectorAll('tr')]
            .find((row) => row.querySelector('th')?.innerText.trim() === 'hip')?.innerText.split('\\t').at(-1) ?? 'stays'";
        let reads = async |words: &str| {
            let holds = async || Ok(browser.ask(hip).await?.as_str() == Some(words));
            browser.wait_for(format!("the hip to read {words}"), holds).await
        };
        reads("2 1/2").await?;
        browser.pick("Below the waist", "closed again at the hip").await?;
        // So much cannot be closed at her hip: it says why, and what can be done instead. A little can.
        browser.see("let the spread run out to the hem").await?;
        browser.fill("Amount", "1/4").await?;
        browser.type_keys(Key::Tab + "").await?;
        browser.see_no_more("let the spread run out to the hem").await?;
        reads("stays").await?;
        browser.press("4 Fill").await?;
        browser.see("Below the waist draw the side back to where it was at the hip").await?;
    });
}
