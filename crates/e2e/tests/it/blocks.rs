//! Masters, nests, cards and the plan, as a dressmaker walks through them.

use thirtyfour::Key;
use yardwand_e2e::walk_as;

#[test]
fn a_master_is_drafted_played_kept_and_traced_for_a_client() {
    walk_as!("master", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.press("Blocks").await?;
        browser.press("Draft a master").await?;
        browser.see("Before you cut").await?;
        // Another construction is drawn at once; the first is laid beside it.
        browser.pick("Method", "Dress").await?;
        browser.see("Dress front").await?;
        browser.choose("with a sleeve").await?;
        browser.see("Sleeve").await?;
        browser.choose("Construction").await?;
        browser.see("1 of ").await?;
        browser.see("neck base girth / 5").await?;
        browser.press("Next step").await?;
        browser.see("2 of ").await?;
        browser.press("Back").await?;
        browser.see("1 of ").await?;
        browser.choose("Beside another method").await?;
        browser.see("Differences above").await?;
        // A constant outside its limits is told beside it; inside, the draft follows.
        browser.choose("Constants").await?;
        browser.fill("Underarm below the tape", "9").await?;
        browser.type_keys(Key::Tab + "").await?;
        browser.see("must lie between").await?;
        browser.fill("Underarm below the tape", "1 1/4").await?;
        browser.type_keys(Key::Tab + "").await?;
        browser.see_no_more("must lie between").await?;
        browser.press("Keep as a master").await?;
        browser.fill("Name of the master", "Recital dress").await?;
        browser.fill("Why it is made", "A deeper armhole for the strings").await?;
        browser.press("Keep the master").await?;
        browser.headed("Recital dress").await?;
        browser.see("Underarm below the tape 1 1/4 in").await?;
        browser.see("rules hold").await?;

        // The house's own nest, traced for a player with her shoulder; the master stays.
        browser.press("Blocks").await?;
        browser.press("House master, bodice").await?;
        browser.press("Trace a figure").await?;
        browser.pick("For", "Bettina").await?;
        browser.see("Traced between").await?;
        browser.see("Shoulder set").await?;
        browser.press("Keep the trace").await?;
        browser.fill("Why it is traced", "For her coat").await?;
        browser.press("Keep the trace").await?;
        browser.headed("Bettina Corr, traced block").await?;
        browser.see("From House master, bodice, version 1").await?;
    });
}

#[test]
fn a_plan_is_changed_line_by_line_and_the_rest_follows() {
    walk_as!("plan", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/2/compare").await?;
        browser.see("What goes together").await?;
        browser.choose("centre and waist").await?;
        browser.press("To the plan").await?;
        browser.headed("Plan").await?;
        browser.see("Begin the pattern from size 12 with 3 alterations").await?;
        browser.choose("Do Full bust").await?;
        // Without the bust its points and the front are planned by themselves.
        browser.see("Bust point level").await?;
        browser.choose("Do Full bust").await?;
        browser.see("with 3 alterations").await?;
        browser.fill("Full bust, per half", "3/4").await?;
        browser.type_keys(Key::Tab + "").await?;
        browser.press("planned 1 1/4 in").await?;
        browser.see_no_more("planned 1 1/4 in").await?;
        // The shoulder may come first; the waist may not come before the bust.
        browser.press("Shoulder length earlier").await?;
        browser.see("1. Shoulder length").await?;
        browser.press("Waist earlier").await?;
        browser.see("cannot come before").await?;
        // Kept: another device would see the same.
        browser.driver.refresh().await?;
        browser.see("1. Shoulder length").await?;
        browser.press("As it was made").await?;
        browser.see("1. Full bust").await?;
        browser.press("Begin the pattern").await?;
        browser.headed("Cutting table").await?;
        browser.see("1. Full bust").await?;
    });
}

#[test]
fn a_doubtful_difference_opens_the_session_at_its_reading() {
    walk_as!("again", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/2/compare").await?;
        browser.see("Client against block").await?;
        browser.pick("Block", "Concert dress").await?;
        browser.see("Hip girth").await?;
        browser.press("Measure Hip girth now").await?;
        browser.headed("Hip girth").await?;
        browser.see("0 of 1 taken").await?;
    });
}

#[test]
fn a_card_and_a_size_table_come_from_paper_and_from_a_file() {
    walk_as!("card", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/blocks/card").await?;
        browser.fill("Name of the card", "Bought bodice").await?;
        browser.fill("Where it comes from", "From the drawer").await?;
        browser.fill_named("Size", "14").await?;
        browser.fill_named("bust", "37 1/2").await?;
        browser.press("Keep the card").await?;
        browser.see("too little of size 14").await?;
        browser.fill_named("waist", "28").await?;
        browser.fill_named("front shoulder", "4 3/4").await?;
        browser.press("Keep the card").await?;
        browser.headed("Bought bodice").await?;
        browser.see("A card has no drawing").await?;

        browser.go("/blocks/card").await?;
        browser.choose("Trousers").await?;
        browser.see("neither drafted nor altered").await?;
        browser.fill("Name of the card", "Bought trousers").await?;
        browser.fill("Where it comes from", "From the drawer").await?;
        browser.press("Another size").await?;
        for (size, label, hip) in [("Size 1", "10", "38"), ("Size 2", "12", "40")] {
            browser.fill_named(size, label).await?;
            for (figure, text) in
                [("Made for: hip girth", "36"), ("waist", "28"), ("hip", hip), ("crotch depth", "11 1/2")]
            {
                browser.fill_named(&format!("{figure}, size {label}"), text).await?;
            }
        }
        browser.press("Keep the card").await?;
        browser.headed("Bought trousers").await?;
        browser.see("Made for: hip girth 36 in").await?;
        browser.see("A card has no drawing").await?;

        browser.go("/blocks/tables").await?;
        let lines = browser.field_of("or its lines", "textarea").await?;
        lines.send_keys("measurement,unit,36,38\nBust girth,cm,84,wide").await?;
        lines.send_keys(Key::Tab + "").await?;
        browser.see("Line 2, 38").await?;
        lines.send_keys(Key::Control + "a").await?;
        lines
            .send_keys("measurement,unit,36,38\nBust girth,cm,84,88\nWaist girth,cm,66,70" + Key::Tab)
            .await?;
        browser.see("2 measurements").await?;
        browser.fill_named("Name of the table", "Workroom table").await?;
        browser.press("Keep the table").await?;
        browser.see("Sizes 36, 38.").await?;
    });
}

#[test]
fn a_drawing_is_read_measured_and_layered_by_keys() {
    walk_as!("drawing", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/blocks/1").await?;
        browser.see("Before you cut").await?;
        let focus = "document.querySelector('figure svg').focus()";
        browser.ask(focus).await?;
        let width =
            "return Number(document.querySelector('figure svg').getAttribute('viewBox').split(' ')[2])";
        let whole = browser.ask(width).await?.as_f64().unwrap_or_default();
        browser.type_keys("++").await?;
        browser
            .wait_for("the drawing to be nearer", async || {
                Ok(browser.ask(width).await?.as_f64().unwrap_or_default() < whole * 0.7)
            })
            .await?;
        browser.type_keys("0m").await?;
        browser.see("Mark the first point").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see("Mark the second point").await?;
        for _ in 0..8 {
            browser.type_keys(Key::Right + "").await?;
        }
        browser.type_keys(Key::Enter + "").await?;
        browser.see("from point to point").await?;
        browser.type_keys(Key::Escape + "").await?;
        browser.see("Point at a seam").await?;
        browser.press("Layers").await?;
        let darts = "return document.querySelectorAll('figure svg g.dart').length";
        let drawn = browser.ask(darts).await?.as_u64();
        browser.choose("Darts").await?;
        browser
            .wait_for("the darts to go", async || Ok(browser.ask(darts).await?.as_u64() == Some(0)))
            .await?;
        browser.choose("Darts").await?;
        browser.wait_for("the darts", async || Ok(browser.ask(darts).await?.as_u64() == drawn)).await?;
    });
}
