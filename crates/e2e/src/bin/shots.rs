//! Pictures of the main views, made from the demo, for `docs/screenshots`.

use std::path::Path;

use yardwand_e2e::{Browser, Walk};

const WIDE: [(&str, &str, &str); 17] = [
    ("today", "/", "Garments in hand"),
    ("client", "/clients/5", "Her story"),
    ("figures", "/clients/5/figures", "Her figures now"),
    ("measure", "/garments/1/measure", "Save and next"),
    ("form", "/forms/1", "Padding for a client"),
    ("practice", "/practice", "What do you see at A?"),
    ("block", "/blocks/2", "Before you cut"),
    ("drape", "/drapes/1?at=drawn", "Before you cut"),
    ("construction", "/blocks/draft", "Before you cut"),
    ("compare", "/garments/2/compare", "Client against block"),
    ("plan", "/garments/2/plan", "Figures after the plan"),
    ("alter", "/garments/3/alter", "Recipe"),
    ("toile", "/garments/4/toile", "Fit it"),
    ("fit", "/garments/5/fit", "What it comes from"),
    ("story", "/garments/5/story", "From round to round"),
    ("calendar", "/calendar", "Clara Wynn-Osei"),
    ("house", "/house", "Usual ease"),
];
const NARROW: [(&str, &str, &str); 1] = [("fit-390", "/garments/5/fit", "What it comes from")];

#[tokio::main]
async fn main() -> Walk {
    let mut browser = Browser::open((1280, 800)).await?;
    let taken = take(&browser).await;
    browser.close().await;
    taken
}

async fn take(browser: &Browser) -> Walk {
    let place = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/screenshots");
    std::fs::create_dir_all(&place)?;
    browser.go("/sign-in").await?;
    browser.see("Sign in").await?;
    browser.sign_in().await?;
    for (name, path, words) in WIDE {
        browser.go(path).await?;
        browser.see(words).await?;
        if name == "form" {
            browser.pick("Client", "Clara Wynn-Osei").await?;
            browser.see("Wind, thick").await?;
        }
        if name == "construction" {
            browser.choose("Construction").await?;
            for _ in 0..5 {
                browser.press("Next step").await?;
            }
        }
        if name == "alter" {
            browser.press("1. Full bust").await?;
            // The drawing is that of the step in hand as soon as its handle is there.
            let handles = "return document.querySelectorAll('circle.handle').length";
            browser
                .wait_for("the handle", async || Ok(browser.ask(handles).await?.as_u64() == Some(1)))
                .await?;
        }
        browser.settled().await?;
        browser.picture(&place.join(format!("{name}.png"))).await?;
    }
    browser.press("Evening").await?;
    browser.go("/garments/3/wishes").await?;
    browser.see("Nothing is wished yet.").await?;
    browser.fill("Neckline width", "7 1/2").await?;
    browser.fill("Neckline depth in front", "5 1/2").await?;
    browser.see("5 1/2 in deep").await?;
    browser.settled().await?;
    browser.picture(&place.join("wishes.png")).await?;
    browser.press("Day").await?;
    browser.resize(390, 844).await?;
    for (name, path, words) in NARROW {
        browser.go(path).await?;
        browser.see(words).await?;
        browser.settled().await?;
        browser.picture(&place.join(format!("{name}.png"))).await?;
    }
    Ok(())
}
