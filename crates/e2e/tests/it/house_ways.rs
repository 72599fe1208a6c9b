//! The house's own way of measuring, its forms, and a client's figures, by visible labels.

use thirtyfour::Key;
use yardwand_e2e::walk_as;

#[test]
fn a_house_makes_its_own_set_and_school_and_a_session_follows_them() {
    walk_as!("house_ways", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.press("House").await?;
        browser.press("Make a set").await?;
        browser.press("Save the set").await?;
        browser.see("The set's name is empty").await?;
        browser.fill("Name of the set", "Waistcoat").await?;
        for name in ["Nape to waist, back", "Neck side to waist, front", "Waist girth"] {
            browser.choose(name).await?;
        }
        browser.press("Save the set").await?;
        browser.see("3 readings").await?;
        browser.pick("Front lengths start at", "the nape").await?;
        browser.press("Save how we measure").await?;
        browser.see("Saved.").await?;
        // Its own set, with its own school written beside the reading.
        browser.go("/clients/5/figures").await?;
        browser.pick("Set", "Waistcoat").await?;
        browser.see("3 of 3 measured").await?;
        browser.press("Begin with this set").await?;
        browser.headed("Nape to waist, back").await?;
        browser.type_keys(String::from("15 7/8") + Key::Enter).await?;
        browser.headed("Neck side to waist, front").await?;
        browser.type_keys("21 3/8").await?;
        browser.see("drafting and comparison use 18 1/4 in, give or take 3/8 in").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.headed("Waist girth").await?;
        browser.see("Last time 30 1/8, 42 days ago").await?;
        browser.type_keys("32").await?;
        browser.see("1 7/8 in more than last time, 42 days ago, taken the same way").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.press("Review and close").await?;
        browser.see("No reading is in doubt").await?;
        browser.fill("Signed by", "").await?;
        browser.fill("Signed by", "Ines Calder").await?;
        browser.press("Sign and close").await?;
        browser.headed("Clara Wynn-Osei").await?;
        browser.see("Front lengths start at the nape").await?;
        browser.press("History").await?;
        browser.see("taken differently: they do not compare").await?;
    });
}

#[test]
fn a_form_is_entered_padded_for_a_client_and_levelled() {
    walk_as!("form", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.press("Forms").await?;
        browser.fill("Name of a new form", "Old papier form").await?;
        browser.press("Add the form").await?;
        browser.headed("Old papier form").await?;
        browser.fill("Bust girth, in", "36 x").await?;
        browser.press("Save the form").await?;
        browser.see("is not part of a length").await?;
        browser.fill("Bust girth, in", "36").await?;
        browser.fill("Waist girth, in", "31").await?;
        let front = browser
            .driver
            .find(thirtyfour::By::Css("[aria-label='Height of the waist line, front']"))
            .await?;
        front.send_keys("41").await?;
        let back =
            browser.driver.find(thirtyfour::By::Css("[aria-label='Height of the waist line, back']")).await?;
        back.send_keys("40 1/2").await?;
        browser.press("Save the form").await?;
        browser.see("The back lies 1/2 in lower than the front").await?;
        browser.pick("Client", "Clara").await?;
        browser.see("This form is already larger than she is somewhere").await?;
        browser.see("3/4").await?;
        browser.go("/clients/5/figures").await?;
        browser.fill("Left", "41").await?;
        browser.press("Is it level?").await?;
        browser.see("Give both of a pair").await?;
        browser.fill("Right", "41 1/8").await?;
        browser.press("Is it level?").await?;
        browser.see("Level.").await?;
    });
}

#[test]
fn the_place_of_an_observation_is_tapped_on_her_own_figure() {
    walk_as!("places", (390, 844), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/5/fit").await?;
        browser.see("Add an observation").await?;
        browser.press("Back").await?;
        browser.tap_place("shoulder blade").await?;
        let chosen = "return document.querySelector('#place').closest('.el-select').innerText.trim()";
        browser
            .wait_for("the place to be chosen", async || {
                Ok(browser.ask(chosen).await?.as_str() == Some("shoulder blade"))
            })
            .await?;
        browser.choose("Fold").await?;
        browser.press("Keep this observation").await?;
        browser.see("Fold at shoulder blade").await?;
    });
}

#[test]
fn a_missing_reading_is_drawn_as_an_estimate_and_measured_from_there() {
    walk_as!("estimate", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/clients/1/draft").await?;
        browser.see("The draft still wants").await?;
        browser.press("Measure these now").await?;
        browser.headed("Side length").await?;
        for (name, text) in [
            ("Side length", "7 1/2"),
            ("Across front", "13"),
            ("Bust span", ""),
            ("Neck side to bust point", "10 1/2"),
            ("Neck side to waist, front", "17 1/4"),
            ("Neck base girth", "14 5/8"),
            ("Upper bust girth", "35"),
            ("Bust girth", "37 1/4"),
            ("Waist girth", "29 1/2"),
        ] {
            browser.headed(name).await?;
            if text.is_empty() {
                browser.type_keys("s").await?;
                browser.press("Leave it out").await?;
            } else {
                browser.type_keys(String::from(text) + Key::Enter).await?;
            }
        }
        browser.see("8 of 9 taken").await?;
        browser.go("/clients/1/draft").await?;
        browser.see("The draft still wants bust span").await?;
        browser.see("Bust span is taken as").await?;
        browser.see("Before you cut").await?;
        browser.see_no_more("Keep this block").await?;
    });
}

#[test]
fn an_ease_set_of_the_house_is_made_mended_and_compared_with() {
    walk_as!("ease", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/house").await?;
        browser.see("Concert dress, bowing arm").await?;
        browser.press("Make an ease set").await?;
        browser.fill("Name of the ease set", "Summer dress").await?;
        browser.fill_named("Wearing ease, bust", "wide").await?;
        browser.press("Save the ease set").await?;
        browser.see("wearing ease at the bust").await?;
        let field = "document.querySelector('input[aria-label=\"Wearing ease, bust\"]').select()";
        browser.ask(field).await?;
        browser.fill_named("Wearing ease, bust", "3").await?;
        browser.fill_named("Design ease, bust", "1").await?;
        browser.press("Save the ease set").await?;
        browser.press("Edit Summer dress").await?;
        browser.press("Never mind").await?;
        // The comparison offers it, and the bust's ease is both together.
        browser.go("/garments/2/compare").await?;
        browser.see("Client against block").await?;
        browser.pick("Ease", "Summer").await?;
        let ease = "return [...document.querySelectorAll('tbody tr')].find((r) => r.innerText.startsWith('Bust girth'))?.cells[2].innerText";
        browser
            .wait_for("an ease of 4 in at the bust", async || {
                Ok(browser.ask(ease).await?.as_str() == Some("4"))
            })
            .await?;
    });
}

#[test]
fn what_is_typed_in_one_card_outlives_saving_another() {
    walk_as!("house_cards", (1280, 900), |browser| {
        browser.sign_in().await?;
        browser.press("House").await?;
        browser.fill("Name of the house", "The long attic").await?;
        browser.fill("Days after which a reading is asked for again", "75").await?;
        browser.fill("Clients a day at most", "4").await?;
        browser.press("Save days and dates").await?;
        browser.see("Saved.").await?;
        for (label, typed) in
            [("Name of the house", "The long attic"), ("Days after which a reading is asked for again", "75")]
        {
            let field = browser.field(label).await?;
            assert_eq!(field.prop("value").await?.as_deref(), Some(typed), "{label}");
        }
        browser.press("Save how we measure").await?;
        browser.press("Save").await?;
        browser.go("/house").await?;
        for (label, kept) in [
            ("Name of the house", "The long attic"),
            ("Days after which a reading is asked for again", "75"),
            ("Clients a day at most", "4"),
        ] {
            let field = browser.field(label).await?;
            assert_eq!(field.prop("value").await?.as_deref(), Some(kept), "{label}");
        }
    });
}

#[test]
fn somebody_is_asked_in_comes_by_the_link_and_may_what_her_role_may() {
    walk_as!("people", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.press("House").await?;
        browser.press("People of the house").await?;
        browser.press("Ask somebody in").await?;
        browser.fill("Name", "Runa Vik").await?;
        browser.fill("E-mail address", "runa@workroom.example").await?;
        browser.pick("May change", "Assistant").await?;
        browser.press("Make a link").await?;
        browser.see("A link for Runa Vik").await?;
        browser.see("runa@workroom.example").await?;
        let link = browser.ask("return document.querySelector('.link').innerText").await?;
        let link = link.as_str().unwrap_or_default().to_owned();
        let path = link.find("/welcome/").map(|at| link[at..].to_owned()).unwrap_or_default();
        browser.press("Sign out").await?;
        browser.see("Password").await?;
        // She comes in with a password of her own; the link is used then.
        browser.go(&path).await?;
        browser.see("Welcome, Runa Vik").await?;
        browser.fill("A password of your own", "linen thread and wax").await?;
        browser.press("Come in").await?;
        browser.see("Garments in hand").await?;
        browser.press("House").await?;
        browser.see("its name, units and days are the owner's to change").await?;
        browser.fill("Name of the house", "Another name").await?;
        browser.press("Save").await?;
        browser.see("Your sign-in may not change the house and its people: ask the owner").await?;
        // Her own password, and the link once more.
        browser.press("Runa Vik").await?;
        browser.fill("The one you sign in with", "linen thread and wax").await?;
        browser.fill("The new one", "silk and beeswax").await?;
        browser.press("Change the password").await?;
        browser.see("Changed.").await?;
        browser.go(&path).await?;
        browser.see("this link was used already").await?;
    });
}

#[test]
fn anything_is_found_from_anywhere_by_a_stroke() {
    walk_as!("find", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.see("Garments in hand").await?;
        browser.type_keys("/").await?;
        browser.see("A name, a number, a word of a note").await?;
        // Without its ring and in small letters.
        browser.type_keys("martens").await?;
        browser.see("edda@orchestra.example").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.headed("Edda Mårtens").await?;
        // On a garment an alteration is found by what it is for, and begun.
        browser.go("/garments/3/alter").await?;
        browser.headed("Cutting table").await?;
        browser.type_keys("/").await?;
        browser.see("A name, a number, a word of a note").await?;
        browser.type_keys("forward sh").await?;
        browser.see("The shoulder joint lies forward").await?;
        browser.type_keys(Key::Enter + "").await?;
        browser.see_no_more("A name, a number, a word of a note").await?;
        browser.see("Forward shoulder").await?;
        let amount = "return document.activeElement?.closest('.step')?.innerText.includes('Forward shoulder') ?? false";
        browser
            .wait_for("the alteration to be begun, its amount in hand", async || {
                Ok(browser.ask(amount).await? == serde_json::Value::Bool(true))
            })
            .await?;
        // A slash in a length is a length.
        browser.go("/sessions/1").await?;
        browser.see("Save and next").await?;
        browser.type_keys("14 1/2").await?;
        browser.see_no_more("A name, a number, a word of a note").await?;
    });
}
