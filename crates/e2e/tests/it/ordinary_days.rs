//! An ordinary day's wishes in the browser, each in at most three presses from where one is.

use thirtyfour::Key;
use yardwand_e2e::walk_as;

#[test]
fn a_note_with_what_was_seen_is_kept_taken_out_and_brought_back() {
    walk_as!("notes", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/clients/5").await?;
        browser.fill("Worth keeping, in neutral words", "Keep the collar's roll.").await?;
        browser.press("Keep the note").await?;
        browser.see("Keep the collar's roll.").await?;
        browser.press("Take out").await?;
        browser.see("The note is taken out.").await?;
        browser.see_no_more("Keep the collar's roll.").await?;
        browser.press("Undo").await?;
        browser.see("Keep the collar's roll.").await?;
        browser.press("More of Clara Wynn-Osei").await?;
        browser.press("Who changed this").await?;
        browser.see("Note: put back").await?;
    });
}

#[test]
fn a_reading_is_corrected_from_where_it_is_seen_and_a_session_dropped_and_brought_back() {
    walk_as!("corrected", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/clients/3/figures").await?;
        browser.press("Correct: Bust girth, 39 3/4 in").await?;
        browser.see("It says 39 3/4 in.").await?;
        browser.fill("What it should be", "40 1/4").await?;
        browser.press("Correct it").await?;
        browser.see("The reason is empty").await?;
        browser.fill("Why", "Written down wrongly").await?;
        browser.press("Correct it").await?;
        browser.see("40 1/4").await?;
        browser.press("History").await?;
        browser.go("/sessions/3").await?;
        browser.press("Drop this session").await?;
        browser.fill("Why", "Another client's").await?;
        browser.press("Drop it").await?;
        browser.see("Its readings do not count.").await?;
        browser.go("/clients/3/history").await?;
        browser.see("Another client's").await?;
        browser.press("Bring it back").await?;
        browser.see("Session by session").await?;
    });
}

#[test]
fn a_garment_is_renamed_compared_cancelled_and_brought_back() {
    walk_as!("garment_menu", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/4/toile").await?;
        browser.press("More of Tail coat bodice").await?;
        browser.press("Rename").await?;
        browser.fill("Garment", "Tail coat").await?;
        browser.press("Save").await?;
        browser.press("More of Tail coat").await?;
        browser.press("Compare with another").await?;
        browser.pick("Which", "Long concert dress, Clara Wynn-Osei").await?;
        browser.press("Compare").await?;
        browser.see("Two garments beside each other").await?;
        browser.see("Laid over each other").await?;
        browser.go("/garments/4/toile").await?;
        browser.press("More of Tail coat").await?;
        browser.press("Cancel").await?;
        browser.see("Cancelled: bring it back to go on with it.").await?;
        browser.press("Undo").await?;
        browser.see("Cut the toile of version 1 and fit round 1.").await?;
    });
}

#[test]
fn a_visit_is_carried_by_key_and_moved_when_what_moves_along_is_said() {
    walk_as!("carried", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/calendar").await?;
        browser.see("Filippa Roux").await?;
        browser
            .ask(
                "[...document.querySelectorAll('.days .visit')].find(e => e.textContent.includes('cutting the toile')).focus()",
            )
            .await?;
        browser.type_keys(Key::Alt + Key::Down).await?;
        browser.see("Move the visit").await?;
        browser.see("from").await?;
    });
}

#[test]
fn keys_are_shown_by_a_question_mark_and_a_word_says_what_it_means() {
    walk_as!("keys", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/2/compare").await?;
        browser.see("All round").await?;
        browser.type_keys("?").await?;
        browser.see("a day or a week earlier or later").await?;
        browser.type_keys(Key::Escape + "").await?;
        browser.see_no_more("a day or a week earlier or later").await?;
        browser
            .ask("[...document.querySelectorAll('.term')].find(e => e.textContent.trim() === 'All round').focus()")
            .await?;
        browser.see("the whole difference that the tape would find").await?;
    });
}

#[test]
fn a_version_is_withdrawn_and_stands_again_and_a_pattern_is_begun_anew() {
    walk_as!("withdrawn", (1280, 800), |browser| {
        browser.sign_in().await?;
        browser.go("/garments/4/toile").await?;
        browser.press("Withdraw version 1").await?;
        browser.fill("Why", "Cut too narrow").await?;
        browser.press("Withdraw it").await?;
        browser.see("Version 1 is withdrawn. Cut too narrow").await?;
        browser.see("No version is saved yet").await?;
        browser.press("Let 1 stand").await?;
        browser.see("Print version 1, true to size").await?;
        browser.go("/garments/4/plan").await?;
        browser.see("is laid beside it, whole").await?;
        browser.see("Begin anew from size 10").await?;
        let anew = "return [...document.querySelectorAll('main button')].find(e => e.textContent.includes('Begin anew')).click()";
        browser.ask(anew).await?;
        browser.see("Cutting table").await?;
        browser.go("/garments/4/plan").await?;
        browser.see("Begun before").await?;
        browser.press("Take it up again").await?;
        browser.go("/garments/4/toile").await?;
        browser.see("Print version 1, true to size").await?;
    });
}
