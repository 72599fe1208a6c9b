//! One garment from end to end, by visible labels, as a new user would.

use crate::fitting::draw_a_short_shoulder;
use yardwand_e2e::walk_as;

const READINGS: [(&str, &str); 16] = [
    ("Nape to waist, back", "15 3/4"),
    ("Neck side to waist, back", "16 1/2"),
    ("Armhole depth", "7 1/2"),
    ("Across back", "13-3/4"),
    ("Shoulder width", "15"),
    ("Shoulder length", "5.25"),
    ("Shoulder slope", "1 5/8"),
    ("Side length", "7 1/2"),
    ("Across front", "13"),
    ("Bust span", "19,7 cm"),
    ("Neck side to bust point", "11"),
    ("Neck side to waist, front", "18 1/4"),
    ("Neck base girth", "14 1/2"),
    ("Upper bust girth", "889 mm"),
    ("Bust girth", "39 1/2\""),
    ("Waist girth", "29+"),
];

#[test]
fn a_new_client_is_measured_compared_altered_printed_and_fitted() {
    walk_as!("nine_steps", (1280, 800), |browser| {
        // 1 Sign in: Today shows the garments in hand and what each waits for.
        browser.sign_in().await?;
        browser.see("Clara Wynn-Osei").await?;
        browser.see("Round 2: one observation to decide.").await?;

        // 2 Add a client, with consent; search finds her by any part of the name.
        browser.press("Clients").await?;
        browser.press("Add a client").await?;
        browser.fill("Name", "Greta Sundqvist").await?;
        browser.fill("Telephone or address", "greta@orchestra.example").await?;
        browser.choose("She agrees that her figures are kept").await?;
        browser.see("Agreed on").await?;
        browser.press("Save client").await?;
        browser.headed("Greta Sundqvist").await?;
        browser.see("Consent given").await?;
        browser.press("Clients").await?;
        browser.fill("Search by any part", "undq").await?;
        browser.see_no_more("Clara Wynn-Osei").await?;
        browser.press("Greta Sundqvist").await?;
        browser.press("New garment").await?;
        browser.fill("Garment", "Blue recital dress").await?;
        browser.press("Take it in hand and measure").await?;

        // 3 Measure, by keyboard alone; checks beside the field; the tab closed in the middle.
        browser.press("Begin measuring").await?;
        for (index, (name, text)) in READINGS.iter().enumerate() {
            browser.headed(name).await?;
            if index == 5 {
                browser.driver.refresh().await?;
                browser.headed(name).await?;
                browser.see("5 of 16 taken").await?;
            }
            if *name == "Bust girth" {
                browser.type_keys("15").await?;
                browser.see("This cannot be").await?;
                browser.type_keys(thirtyfour::Key::Backspace + thirtyfour::Key::Backspace).await?;
                browser.type_keys("3x").await?;
                browser.see("is not part of a length").await?;
                browser.type_keys(thirtyfour::Key::Backspace + thirtyfour::Key::Backspace).await?;
            }
            browser.type_keys(*text).await?;
            browser.type_keys(thirtyfour::Key::Enter + "").await?;
            browser.see(&format!("{} of 16 taken", index + 1)).await?;
        }
        browser.press("Review and close").await?;
        browser.see("No reading is in doubt").await?;
        browser.press("Sign and close").await?;

        // 4 Block: the house master, and one from her own readings.
        browser.headed("Compare").await?;
        browser.press("Blocks").await?;
        browser.press("House master, bodice").await?;
        browser.see("Before you cut").await?;
        browser.press("Clients").await?;
        browser.press("Greta Sundqvist").await?;
        browser.press("Draft her own block").await?;
        browser.press("Keep this block").await?;
        browser.headed("Greta Sundqvist, own block").await?;

        // 5 Compare: both schools, the table, a plan with reasons.
        browser.press("Today").await?;
        browser.press("Greta Sundqvist").await?;
        browser.headed("Compare").await?;
        // Her own block is offered first; the master is compared all the same.
        browser.see("This block has one size.").await?;
        browser.pick("Block", "House master, bodice, version 1").await?;
        browser.press("The schools side by side").await?;
        browser.see("By the upper bust: size").await?;
        browser.see("By the bust: size").await?;
        browser.see("Bust prominence").await?;
        browser.press("To the plan").await?;
        browser.headed("Plan").await?;
        browser.see("so the difference is prominence").await?;
        browser.press("Begin the pattern").await?;

        // 6 Alter: amount by typing, arrow keys; stages; undo, redo, switch off.
        browser.headed("Cutting table").await?;
        browser.press("1. Full bust").await?;
        browser.fill("Amount", "3/4").await?;
        browser.type_keys(thirtyfour::Key::Tab + "").await?;
        browser.see("1 1/2 in on the body").await?;
        let field = browser.field("Amount").await?;
        field.send_keys(thirtyfour::Key::Up + "").await?;
        browser.see("1 3/4 in on the body").await?;
        browser.press("Undo").await?;
        browser.see("1 1/2 in on the body").await?;
        browser.press("Redo").await?;
        browser.see("1 3/4 in on the body").await?;
        browser.press("3 Move").await?;
        browser.see("Swing the side open about the hinge").await?;
        browser.press("Finished").await?;
        browser.press("Full bust is done").await?;
        browser.see_no_more("drag the blue point").await?;
        browser.press("Full bust is done").await?;
        browser.see("Before you cut").await?;
        browser.see("9 rules hold").await?;

        // 7 Saved as block and recipe, in versions.
        browser.fill("Save as version 1", "First toile").await?;
        browser.press("Save version").await?;
        browser.headed("Toile").await?;

        // 8 Print: the files come true to size with the right names.
        browser.see("Print version 1, true to size").await?;
        browser.choose("Letter").await?;
        let fetched = browser
            .driver
            .execute_async(
                "const done = arguments[arguments.length - 1]
                 const links = [...document.querySelectorAll('a.el-button')].map((a) => a.href)
                 Promise.all(links.map(async (l) => { const r = await fetch(l); const b = await r.arrayBuffer();
                   return [r.headers.get('content-type'), new TextDecoder().decode(b.slice(0, 5)), l.includes('letter')] })).then(done)",
                Vec::new(),
            )
            .await?;
        let kinds = fetched.json().to_string();
        if !kinds.contains("application/pdf\",\"%PDF-\",true") || !kinds.contains("image/svg+xml\",\"<svg ") {
            return Err(format!("the files are {kinds}").into());
        }

        // 9 Fit: a round with an observation, a decision, and the next round that asks what became of it.
        browser.fill("What she wears", "Her foundation, flat shoes").await?;
        browser.press("Open fitting round 1").await?;
        browser.headed("Fitting round 1").await?;
        browser.tap_place("shoulder tip").await?;
        browser.choose("Drag").await?;
        browser.fill("In words", "Pulls up to the joint").await?;
        browser.fill("How much is pinned", "1/4").await?;
        browser.choose("tuck or opening, once").await?;
        browser.press("Keep this observation").await?;
        browser.see("1/4 in per half").await?;
        browser.press("Alter by hand").await?;
        browser.pick("Alteration", "Shoulder length").await?;
        browser.press("Decide this alteration").await?;
        browser.see("Shoulder length 1/4 in on the seam").await?;
        browser.press("Close").await?;
        browser.fill("Comfort, in her words", "Roomy").await?;
        browser.press("Close round 1").await?;
        browser.see("It made version 2 of the pattern.").await?;
        browser.press("Toile").await?;
        browser.press("Open fitting round 2").await?;
        browser.headed("Fitting round 2").await?;
        browser.see("From earlier rounds").await?;
        browser.choose("Gone").await?;
        browser.press("Close").await?;
        browser.press("Close round 2").await?;
        browser.see("Nothing was altered.").await?;
        browser.see("Nothing left to pin").await?;
        browser.press("Greta Sundqvist").await?;
        browser.see("Drag at shoulder tip from round 1: gone.").await?;
        browser.see("\u{201c}Roomy\u{201d}").await?;
    });
}

/// The same way with nothing done that need not be: what it costs the hands.
#[test]
fn the_whole_way_from_client_to_hand_over_takes_few_presses_and_keys() {
    walk_as!("whole_way", (1280, 800), |browser| {
        browser.sign_in().await?;
        let (presses_before, keys_before) = browser.presses_and_keys();
        browser.press("Clients").await?;
        browser.press("Add a client").await?;
        browser.fill("Name", "Greta Sundqvist").await?;
        browser.fill("Telephone or address", "greta@orchestra.example").await?;
        browser.choose("She agrees that her figures are kept").await?;
        browser.press("Save client").await?;
        browser.headed("Greta Sundqvist").await?;
        browser.press("New garment").await?;
        browser.fill("Garment", "Blue recital dress").await?;
        browser.press("Take it in hand and measure").await?;
        browser.press("Begin measuring").await?;
        for (name, text) in READINGS {
            browser.headed(name).await?;
            browser.type_keys(text).await?;
            browser.type_keys(thirtyfour::Key::Enter + "").await?;
        }
        browser.see("16 of 16 taken").await?;
        browser.press("Review and close").await?;
        browser.press("Sign and close").await?;
        browser.headed("Compare").await?;
        browser.press("To the plan").await?;
        browser.headed("Plan").await?;
        browser.press("Begin the pattern").await?;
        browser.headed("Cutting table").await?;
        browser.fill("Save as version 1", "First toile").await?;
        browser.press("Save version").await?;
        browser.headed("Toile").await?;
        browser.see("sheets of A4").await?;
        // The file itself is looked at by the test above.
        let before = browser.ask("return location.pathname").await?;
        browser.press("PDF in tiles").await?;
        assert_eq!(browser.ask("return location.pathname").await?, before, "printing leads nowhere else");
        browser.fill("What she wears", "Her foundation").await?;
        browser.press("Open fitting round 1").await?;
        browser.headed("Fitting round 1").await?;
        draw_a_short_shoulder(&browser).await?;
        browser.press("Keep this observation").await?;
        browser.press("Take shoulder length").await?;
        browser.see("Shoulder length 1/4 in on the seam").await?;
        browser.press("Close").await?;
        browser.press("Close round 1").await?;
        browser.see("It made version 2 of the pattern.").await?;
        browser.press("Cut the next toile").await?;
        browser.press("Open fitting round 2").await?;
        browser.headed("Fitting round 2").await?;
        browser.press_within("Earlier: Drag at sleeve cap towards shoulder tip", "Gone").await?;
        browser.press("Close").await?;
        browser.press("Close round 2").await?;
        browser.see("Nothing left to pin").await?;
        browser.press("Cut").await?;
        browser.headed("Cut and hand over").await?;
        browser.press("Hand it over").await?;
        browser.see("Handed over on").await?;
        let (presses, keys) = browser.presses_and_keys();
        let (presses, keys) = (presses - presses_before, keys - keys_before);
        eprintln!("the whole way: {presses} presses, {keys} keys");
        if presses > 60 || keys > 300 {
            return Err(format!("{presses} presses and {keys} keys are more than 60 and 300").into());
        }
    });
}

#[test]
fn a_full_bust_dragged_and_typed_gives_the_same_pattern() {
    walk_as!("drag", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.press("Edda Mårtens").await?;
        browser.press("1. Full bust").await?;
        let amount = "return document.querySelector('.step.inhand .amounts strong').innerText";
        let stands_at = async |text: &str| {
            let reads = async || Ok(browser.ask(amount).await?.as_str() == Some(text));
            browser.wait_for(format!("the amount to be {text}"), reads).await
        };
        stands_at("2").await?;
        // The handle is the step's own: it is there as soon as the drawing is that of the step in hand.
        let handles = "return document.querySelectorAll('circle.handle').length";
        browser.wait_for("the handle", async || Ok(browser.ask(handles).await?.as_u64() == Some(1))).await?;
        browser.see("5 True").await?;
        browser.settled().await?;
        let path = "return document.querySelector('path.piece').getAttribute('d')";
        let planned = browser.ask(path).await?;
        browser.drag("circle.handle", (-14, 0)).await?;
        browser
            .wait_for("the pattern to follow the hand", async || Ok(browser.ask(path).await? != planned))
            .await?;
        // What was dragged is what is kept: the page read anew shows the same.
        let kept = "return document.querySelector('.step.inhand input[type=text]').value";
        browser
            .wait_for("the field to follow", async || Ok(browser.ask(kept).await?.as_str() != Some("1")))
            .await?;
        let text = browser.ask(kept).await?.as_str().unwrap_or_default().to_owned();
        let dragged = browser.ask(path).await?;
        browser.press("Undo").await?;
        browser.wait_for("undo to bring it back", async || Ok(browser.ask(path).await? == planned)).await?;
        browser.fill("Amount", &text).await?;
        browser.type_keys(thirtyfour::Key::Tab + "").await?;
        browser
            .wait_for("the typed pattern to be the dragged one", async || {
                Ok(browser.ask(path).await? == dragged)
            })
            .await?;
        // The arrow keys on the handle move it too.
        let handle = browser.driver.find(thirtyfour::By::Css("circle.handle")).await?;
        handle.send_keys(thirtyfour::Key::Right + "").await?;
        browser
            .wait_for("the arrow key to move it", async || Ok(browser.ask(path).await? != dragged))
            .await?;
    });
}
