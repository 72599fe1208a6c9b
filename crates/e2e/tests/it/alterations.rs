//! The cutting table, as a dressmaker works at it: an alteration is found, told how, moved in the recipe, played
//! and walked; one shoulder alone; a seam that is pointed at.

use thirtyfour::Key;
use yardwand_e2e::{Browser, Walk, walk_as};

/// Signed in, with the invented jacket on the cutting table.
async fn at_the_table(browser: &Browser) -> Walk {
    browser.sign_in().await?;
    browser.press("Edda Mårtens").await?;
    browser.headed("Cutting table").await
}

/// Finds an alteration by these words and adds it.
async fn add(browser: &Browser, words: &str, name: &str) -> Walk {
    browser.press("Add an alteration").await?;
    browser.fill("Find", words).await?;
    browser.press(name).await
}

/// The recipe's steps by name, in their order.
async fn recipe(browser: &Browser) -> Walk<String> {
    let names = browser
        .ask("return [...document.querySelectorAll('.step .name')].map((b) => b.innerText).join('; ')")
        .await?;
    Ok(names.as_str().unwrap_or_default().to_owned())
}

async fn recipe_reads(browser: &Browser, words: &str) -> Walk {
    let holds = async || Ok(recipe(browser).await? == words);
    browser.wait_for(format!("the recipe to read {words}"), holds).await
}

/// Takes the steps behind these out, the last one first.
async fn keep(browser: &Browser, words: &str) -> Walk {
    recipe_begins(browser, words).await?;
    loop {
        let steps = recipe(browser).await?;
        let Some((before, last)) = steps.rsplit_once("; ").filter(|_| steps != words) else { break };
        browser.press(last).await?;
        browser.press("Take out").await?;
        recipe_reads(browser, before).await?;
    }
    recipe_reads(browser, words).await
}

async fn recipe_begins(browser: &Browser, words: &str) -> Walk {
    let holds = async || Ok(recipe(browser).await?.starts_with(words));
    browser.wait_for(format!("the recipe to begin with {words}"), holds).await
}

/// Waits until the step that is in hand is this one.
async fn in_hand(browser: &Browser, name: &str) -> Walk {
    let ask = "return document.querySelector('.step.inhand .name')?.innerText ?? ''";
    let holds = async || Ok(browser.ask(ask).await?.as_str().is_some_and(|found| found.contains(name)));
    browser.wait_for(format!("{name} to be in hand"), holds).await
}

async fn amount(browser: &Browser, text: &str) -> Walk {
    browser.fill("Amount", text).await?;
    browser.type_keys(Key::Tab + "").await
}

#[test]
fn a_step_is_found_told_how_reordered_played_and_walked() {
    walk_as!("recipe", (1280, 800), |browser| {
        at_the_table(&browser).await?;
        // Two steps of the plan are enough to begin with.
        keep(&browser, "1. Full bust; 2. Shoulder length").await?;

        add(&browser, "rounded", "Rounded back").await?;
        in_hand(&browser, "Rounded back").await?;
        amount(&browser, "1/2").await?;
        browser.see("The centre back is a seam now").await?;
        browser.pick("Finish", "neck dart").await?;
        browser.see_no_more("The centre back is a seam now").await?;
        // It stands in its layer's place; she may move it.
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length").await?;
        browser.press("Later").await?;
        recipe_reads(&browser, "1. Full bust; 2. Rounded back; 3. Shoulder length").await?;
        browser.press("Undo").await?;
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length").await?;
        browser.press("Redo").await?;
        recipe_reads(&browser, "1. Full bust; 2. Rounded back; 3. Shoulder length").await?;

        // Played, the stages follow each other with their words, and the finished pattern comes back.
        browser.press("Play").await?;
        browser.see("Rule level from the centre back to the armhole").await?;
        browser.see("Swing the upper part about the hinge").await?;
        browser.see("Take what the neckline gained into a dart").await?;
        browser.see("press a seam to alter there").await?;

        browser.press("Walk seams").await?;
        browser.see("side seam: equally long").await?;
        browser.press("shoulder").await?;
        browser.press("Walk").await?;
        browser.see("Walked ").await?;
        browser.press("Beside").await?;
        browser.see("Two states beside each other").await?;
        browser.see("Laid over it, in blue").await?;
        browser.press("Cutting table").await?;
        browser.see("press a seam to alter there").await?;
        browser.settled().await?;
        browser.axe().await?;

        // What was made is kept: the page read anew shows the same recipe.
        browser.driver.refresh().await?;
        recipe_reads(&browser, "1. Full bust; 2. Rounded back; 3. Shoulder length").await?;
    });
}

#[test]
fn one_sloping_shoulder_makes_left_and_right_pieces() {
    walk_as!("slope", (1280, 800), |browser| {
        at_the_table(&browser).await?;
        let pieces = "return document.querySelectorAll('.drawing path.piece').length";
        let drawn = async |count: u64| {
            let holds = async || Ok(browser.ask(pieces).await?.as_u64() == Some(count));
            browser.wait_for(format!("{count} pieces to be drawn"), holds).await
        };
        drawn(2).await?;
        // The shoulder is pointed at: only what is done there is offered.
        browser
            .ask("document.querySelector('[aria-label^=\"Bodice front, shoulder\"]').dispatchEvent(new MouseEvent('click', { bubbles: true }))")
            .await?;
        browser.see("At the shoulder").await?;
        browser.see_no_more("Sway back").await?;
        browser.press("Shoulder slope").await?;
        in_hand(&browser, "Shoulder slope").await?;
        amount(&browser, "3/8").await?;
        browser.see("3/8 in on each side").await?;
        browser.pick("Done on", "right only").await?;
        drawn(4).await?;
        browser.see("Left and right differ now").await?;
        browser.see("shoulder drop, right").await?;
        browser.see("Shoulder slope, right only").await?;
        // Both sides again are one pattern.
        browser.press("Undo").await?;
        drawn(2).await?;
        browser.see_no_more("Left and right differ now").await?;
    });
}

#[test]
fn a_refused_amount_goes_to_its_limit_and_an_offer_is_taken() {
    walk_as!("limit", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.press("Edda Mårtens").await?;
        browser.press("1. Full bust").await?;
        amount(&browser, "4 1/2").await?;
        browser.see("is more than the").await?;
        browser.see("Look before you cut:").await?;
        browser.press("Set it to the limit").await?;
        browser.see_no_more("is more than the").await?;
        browser.press("Undo").await?;
        browser.press("Undo").await?;
        keep(&browser, "1. Full bust").await?;

        // Length on the front alone: the back is offered, and taken in one tap.
        browser.press("Add an alteration").await?;
        browser.fill("Find", "hem whole armhole").await?;
        browser.press("Length").await?;
        in_hand(&browser, "Length").await?;
        browser.pick("Which pieces", "front only").await?;
        amount(&browser, "1/2").await?;
        browser.see("The side seams differ by 1/2 in now").await?;
        browser.see("held until step 1, length").await?;
        browser.press("Do it").await?;
        recipe_reads(&browser, "1. Length; 2. Length; 3. Full bust").await?;
        browser.see_no_more("held until step 1, length").await?;
        // The plan's lines that were taken out are offered again.
        browser.press("Add an alteration").await?;
        browser.see("From the plan").await?;
    });
}

#[test]
fn a_front_is_divided_into_panels_on_a_phone() {
    walk_as!("panels", (390, 844), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/3/alter").await?;
        browser.headed("Cutting table").await?;
        let pieces = "return document.querySelectorAll('.drawing path.piece').length";
        let drawn = async |count: u64| {
            let holds = async || Ok(browser.ask(pieces).await?.as_u64() == Some(count));
            browser.wait_for(format!("{count} pieces to be drawn"), holds).await
        };
        drawn(2).await?;
        add(&browser, "princess", "Princess line").await?;
        in_hand(&browser, "Princess line").await?;
        drawn(3).await?;
        amount(&browser, "1/2").await?;
        browser.see("1/4 in as the tuck stands up").await?;
        browser.see("Facings and linings of the front are divided").await?;
        // Marked, the line is drawn on the whole front.
        browser.press("1 Mark").await?;
        browser.see("Draw the line from the armhole").await?;
        drawn(2).await?;
        browser.press("Finished").await?;
        drawn(3).await?;
        // A second line is one for the back; with both divided no third is offered, and it says so. A correction is: it is
        // done before the lines.
        add(&browser, "princess", "Princess line").await?;
        drawn(4).await?;
        browser.see("Facings and linings of the back are divided").await?;
        browser.press("Add an alteration").await?;
        browser.fill("Find", "princess").await?;
        browser.see("Not for this pattern as it is: princess line").await?;
        browser.fill("Find", "full bust").await?;
        browser.see_no_more("Not for this pattern as it is").await?;
        browser.press("Walk seams").await?;
        browser.see("princess seam: equally long").await?;
        browser.see("princess seam of the back: equally long").await?;
        let wide = "return document.documentElement.scrollWidth <= window.innerWidth";
        if browser.ask(wide).await? != serde_json::Value::Bool(true) {
            return Err("the page is wider than the phone".into());
        }
    });
}

#[test]
fn a_line_of_her_own_is_drawn_by_its_point() {
    walk_as!("own_line", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/3/alter").await?;
        browser.headed("Cutting table").await?;
        add(&browser, "princess", "Princess line").await?;
        in_hand(&browser, "Princess line").await?;
        let points = "return document.querySelectorAll('.handle.point').length";
        browser.wait_for("the point", async || Ok(browser.ask(points).await?.as_u64() == Some(1))).await?;
        browser.settled().await?;
        let path = "return document.querySelector('path.piece').getAttribute('d')";
        let by_itself = browser.ask(path).await?;
        browser.drag(".handle.point", (-6, 3)).await?;
        let follows = async || Ok(browser.ask(path).await? != by_itself);
        browser.wait_for("the line to follow the hand", follows).await?;
        // Both figures of the point are the step's, and are kept.
        browser.see("Drawn through").await?;
        browser.settled().await?;
        let dragged = browser.ask(path).await?;
        let point = browser.driver.find(thirtyfour::By::Css(".handle.point")).await?;
        point.send_keys(Key::Left + "").await?;
        let further = async || Ok(browser.ask(path).await? != dragged);
        browser.wait_for("the arrow key to move it", further).await?;
        browser.axe().await?;
        browser.press("Undo").await?;
        let back = async || Ok(browser.ask(path).await? == dragged);
        browser.wait_for("undo to bring it back", back).await?;
        browser.press("Undo").await?;
        let whole = async || Ok(browser.ask(path).await? == by_itself);
        browser.wait_for("undo to bring the line back", whole).await?;
    });
}

#[test]
fn more_of_the_same_adds_up_and_is_taken_back_by_itself() {
    walk_as!("adds_up", (1280, 900), |browser| {
        at_the_table(&browser).await?;
        keep(&browser, "1. Full bust; 2. Shoulder length").await?;
        // A style line first: what is corrected afterwards is done before it.
        add(&browser, "princess", "Princess line").await?;
        in_hand(&browser, "Princess line").await?;
        recipe_reads(&browser, "1. Full bust; 2. Shoulder length; 3. Princess line").await?;
        add(&browser, "rounded", "Rounded back").await?;
        in_hand(&browser, "Rounded back").await?;
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length; 4. Princess line").await?;
        amount(&browser, "1/2").await?;
        browser.see("1/2 in here").await?;

        // The same once more is added to it, with its own reason; what is typed next is its amount.
        browser.press("Add to it").await?;
        browser.fill("Added", "1/4").await?;
        browser.type_keys(Key::Tab + "").await?;
        browser.see("1/2 + 1/4 = 3/4 in").await?;
        browser.see("3/4 in here").await?;
        recipe_reads(&browser, "1. Rounded back; 2. Full bust; 3. Shoulder length; 4. Princess line").await?;
        browser.settled().await?;
        browser.axe().await?;
        browser.press("Take this back").await?;
        browser.see_no_more("1/2 + 1/4").await?;
        browser.see("1/2 in here").await?;
        browser.press("Undo").await?;
        browser.see("1/2 + 1/4 = 3/4 in").await?;
        browser.press("Take the first back").await?;
        browser.see("1/4 in here").await?;
        browser.press("Undo").await?;
        browser.see("1/2 + 1/4 = 3/4 in").await?;

        // Typed and saved in one go on a slow line: the sum is what the version holds.
        browser.slow(500).await?;
        let field = browser.field("Added").await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys("3/8").await?;
        browser.press("Save version").await?;
        browser.see("Print version 1").await?;
        let kept = browser.answer("/api/patterns/1").await?;
        let added =
            kept.pointer("/versions/0/recipe/steps/0/more/0/amounts/amount").and_then(|mm| mm.as_f64());
        assert!(added.is_some_and(|mm| (mm - 9.525).abs() < 1e-9), "{added:?}");
    });
}

#[test]
fn corrections_are_carried_over_to_another_clients_garment() {
    walk_as!("carried_over", (1280, 900), |browser| {
        at_the_table(&browser).await?;
        recipe_begins(&browser, "1. ").await?;
        let kept = async || -> Walk<serde_json::Value> {
            Ok(browser.answer("/api/patterns/1").await?["recipe"].clone())
        };
        let before = kept().await?;
        // Her own garment is not offered; of another client's every step says what becomes of it here.
        browser.press("Carry over from another pattern").await?;
        browser.see("Carry corrections over").await?;
        let options = browser
            .ask(
                "const list = document.getElementById(document.querySelector('#carry-from').getAttribute('aria-controls'))
                return [...list.querySelectorAll('[role=option]')].map((each) => each.textContent.trim()).join(';')",
            )
            .await?;
        let options = options.as_str().unwrap_or_default().to_owned();
        let other = options.split(';').next().unwrap_or_default().to_owned();
        if options.contains("Edda") || other.is_empty() {
            return Err(format!("offered: {options}").into());
        }
        browser.pick("From", &other).await?;
        let said = "return document.querySelectorAll('[aria-label=\"Corrections\"] li p').length > 0 &&
            [...document.querySelectorAll('[aria-label=\"Corrections\"] li')].every((li) => li.querySelector('p'))";
        let holds = async || Ok(browser.ask(said).await? == serde_json::Value::Bool(true));
        browser.wait_for("every step to say what becomes of it", holds).await?;
        browser.axe().await?;
        let action = "return document.querySelector('.el-dialog button[type=submit]').innerText.trim()";
        let action = browser.ask(action).await?.as_str().unwrap_or_default().to_owned();
        if !action.starts_with("Carry over ") || !action.contains("step") {
            return Err(format!("the button reads {action}").into());
        }
        browser.press(&action).await?;
        browser.wait_for("the recipe to take them in", async || Ok(kept().await? != before)).await?;
        let after = kept().await?;
        if !after.to_string().contains("Carried over from another pattern.") {
            return Err(format!("kept: {after}").into());
        }
        // One undo takes it all back.
        browser.press("Undo").await?;
        browser.wait_for("the recipe to be as it was", async || Ok(kept().await? == before)).await?;
        browser.press("Redo").await?;
        browser.wait_for("the recipe to take them in again", async || Ok(kept().await? == after)).await?;
    });
}
