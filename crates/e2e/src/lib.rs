//! A real browser on the real application, driven by what a person sees: labels, names, words.
//!
//! Each test gets a house of its own (database, server), and all share one ChromeDriver. Nothing sleeps:
//! everything waits for what it wants to see, and a failure leaves a picture in `target/e2e`.

mod hands;

use std::fmt::Display;
use std::future::Future;
use std::net::TcpListener as StdListener;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::Mutex;
use std::time::Duration;

use serde_json::json;
use thirtyfour::WindowHandle;
use thirtyfour::prelude::*;
use tokio::net::TcpListener;
use tokio::sync::oneshot;
use yardwand_devdb::TestDb;
use yardwand_server::{AppState, DEMO_EMAIL, DEMO_PASSWORD, Patience, seed_demo, serve};
use yardwand_store::Store;

/// How long a person would wait for something to appear.
const PATIENCE: Duration = Duration::from_secs(30);
const LOOK_EVERY: Duration = Duration::from_millis(40);

/// A failure with a sentence.
pub type Walk<T = ()> = Result<T, Box<dyn std::error::Error + Send + Sync>>;

/// A browser window on a house of its own.
#[derive(Debug)]
pub struct Browser {
    /// The driver, for what the words below do not cover.
    pub driver: WebDriver,
    base: String,
    profile: PathBuf,
    /// What the hands have done so far.
    done: hands::Done,
    stop: Option<oneshot::Sender<()>>,
    _db: TestDb,
}

/// Runs a walk in a window of this size; leaves a picture where it fails.
///
/// # Panics
///
/// When the walk fails: this is how a test fails.
pub fn walk<F>(name: &str, size: (u32, u32), steps: impl FnOnce(Browser) -> F)
where
    F: Future<Output = (Browser, Walk)>,
{
    let runtime = tokio::runtime::Runtime::new().unwrap_or_else(|error| panic!("{error}"));
    runtime.block_on(async {
        let browser =
            Browser::open(size).await.unwrap_or_else(|error| panic!("the browser does not open: {error}"));
        let (mut browser, walked) = steps(browser).await;
        if let Err(error) = &walked {
            let picture = target().join(format!("{name}.png"));
            let _ = browser.picture(&picture).await;
            eprintln!("{name}: {error}; see {}", picture.display());
        }
        browser.close().await;
        if let Err(error) = walked {
            panic!("{name}: {error}");
        }
    });
}

/// Writes a walk as a block: `walk_as!("name", (1280, 800), |browser| { … })`.
#[macro_export]
macro_rules! walk_as {
    ($name:expr, $size:expr, |$browser:ident| $steps:block) => {
        $crate::walk($name, $size, |$browser: $crate::Browser| async move {
            let walked: $crate::Walk = async {
                $steps
                Ok(())
            }
            .await;
            ($browser, walked)
        })
    };
}

fn target() -> PathBuf {
    let place = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../target/e2e");
    let _ = std::fs::create_dir_all(&place);
    place
}

fn free_port() -> std::io::Result<u16> {
    Ok(StdListener::bind(("127.0.0.1", 0))?.local_addr()?.port())
}

/// The ChromeDriver of this process, started once; it ends with the process's pipe.
fn driver_url() -> Walk<String> {
    static DRIVER: Mutex<Option<(Child, u16)>> = Mutex::new(None);
    let mut driver = DRIVER.lock().map_err(|_| "another test broke the driver")?;
    if let Some((_, port)) = driver.as_ref() {
        return Ok(format!("http://127.0.0.1:{port}"));
    }
    let port = free_port()?;
    // As the database is held: a shell that ends the driver when this process goes.
    let child = Command::new("/bin/sh")
        .args([
            "-c",
            "chromedriver --port=$1 --silent </dev/null >/dev/null 2>&1 & pid=$!; cat >/dev/null; kill $pid",
            "sh",
        ])
        .arg(port.to_string())
        .stdin(Stdio::piped())
        .spawn()
        .map_err(|error| {
            format!("ChromeDriver cannot be started ({error}): run `cargo xtask test`, which installs it")
        })?;
    *driver = Some((child, port));
    Ok(format!("http://127.0.0.1:{port}"))
}

impl Browser {
    /// Opens a window on a fresh demo house.
    ///
    /// # Errors
    ///
    /// Whatever keeps the house or the browser from opening.
    pub async fn open((width, height): (u32, u32)) -> Walk<Self> {
        let db = TestDb::new();
        let store = Store::connect(&db.url()).await?;
        store.migrate().await?;
        seed_demo(&store).await?;
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let base = format!("http://{}", listener.local_addr()?);
        let (stop, stopped) = oneshot::channel::<()>();
        let state = AppState::of(store);
        tokio::spawn(async move {
            let stop = async {
                let _ = stopped.await;
            };
            serve(listener, state, Patience::default(), stop).await;
        });

        let profile =
            std::env::temp_dir().join(format!("yardwand-e2e-{}-{}", std::process::id(), free_port()?));
        let mut wanted = DesiredCapabilities::chrome();
        let profile_argument = format!("--user-data-dir={}", profile.display());
        let window = format!("--window-size={width},{height}");
        for argument in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-background-networking",
            "--no-first-run",
            "--hide-scrollbars",
            "--force-prefers-reduced-motion",
            profile_argument.as_str(),
            window.as_str(),
        ] {
            wanted.add_arg(argument)?;
        }
        let url = driver_url()?;
        let driver = loop_until(|| WebDriver::new(&url, wanted.clone())).await?;
        let browser = Self { driver, base, profile, done: hands::Done::default(), stop: Some(stop), _db: db };
        browser.resize(width, height).await?;
        Ok(browser)
    }

    /// Makes the page exactly this large.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn resize(&self, width: u32, height: u32) -> Walk {
        let size = json!({ "width": width, "height": height, "deviceScaleFactor": 1, "mobile": false });
        self.driver.cdp().send_raw("Emulation.setDeviceMetricsOverride", size).await?;
        Ok(())
    }

    /// Closes window, server and database.
    pub async fn close(&mut self) {
        let _ = self.driver.clone().quit().await;
        drop(self.stop.take());
        let _ = std::fs::remove_dir_all(&self.profile);
    }

    /// Goes to a page.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn go(&self, path: &str) -> Walk {
        Ok(self.driver.goto(format!("{}{path}", self.base)).await?)
    }

    /// Signs in as the demo's owner, as a person would.
    ///
    /// # Errors
    ///
    /// When the door stays shut.
    pub async fn sign_in(&self) -> Walk {
        self.go("/").await?;
        self.fill("E-mail address", DEMO_EMAIL).await?;
        self.fill("Password", DEMO_PASSWORD).await?;
        self.press("Sign in").await?;
        self.see("Garments in hand").await
    }

    /// Takes hold of what this selector finds and lets it go so many pixels to the right and down.
    ///
    /// # Errors
    ///
    /// When nothing is found, or the driver fails.
    pub async fn drag(&self, selector: &str, (right, down): (i64, i64)) -> Walk {
        let found = self.driver.find(By::Css(selector)).await?;
        let chain = self.driver.action_chain().click_and_hold_element(&found);
        Ok(chain.move_by_offset(right, down).release().perform().await?)
    }

    /// A picture of the page.
    ///
    /// # Errors
    ///
    /// What the driver or the disk says.
    pub async fn picture(&self, path: &Path) -> Walk {
        Ok(self.driver.screenshot(path).await?)
    }

    /// Waits until these words are on the page.
    ///
    /// # Errors
    ///
    /// When they do not appear.
    pub async fn see(&self, words: &str) -> Walk {
        let ask = "return document.body.innerText.toLowerCase().includes(arguments[0].toLowerCase())";
        let found =
            async || Ok(self.driver.execute(ask, vec![json!(words)]).await?.json().as_bool() == Some(true));
        self.wait_for(format!("\u{201c}{words}\u{201d} to be seen"), found).await
    }

    /// Waits until these words are gone.
    ///
    /// # Errors
    ///
    /// When they stay.
    pub async fn see_no_more(&self, words: &str) -> Walk {
        let ask = "return !document.body.innerText.toLowerCase().includes(arguments[0].toLowerCase())";
        let gone =
            async || Ok(self.driver.execute(ask, vec![json!(words)]).await?.json().as_bool() == Some(true));
        self.wait_for(format!("\u{201c}{words}\u{201d} to go"), gone).await
    }

    /// Waits until the page's heading is exactly this.
    ///
    /// # Errors
    ///
    /// When it is another.
    pub async fn headed(&self, words: &str) -> Walk {
        let ask = "return document.querySelector('h1')?.innerText ?? ''";
        self.wait_for(format!("the heading {words}"), async || {
            Ok(self.ask(ask).await?.as_str() == Some(words))
        })
        .await
    }

    /// Cuts this page's own requests, or lets them through again: unlike [`Self::cut_line`] it holds while another
    /// window is looked at.
    ///
    /// # Errors
    ///
    /// Where the page cannot be asked.
    pub async fn cut_requests(&self, cut: bool) -> Walk {
        let script = if cut {
            "window.line = window.fetch; window.fetch = () => Promise.reject(new TypeError('no line'))"
        } else {
            "window.fetch = window.line; window.dispatchEvent(new Event('online'))"
        };
        self.ask(script).await?;
        Ok(())
    }

    /// Cuts the line of this tab, or joins it again.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn cut_line(&self, cut: bool) -> Walk {
        let rate = json!({ "offline": cut, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1 });
        self.driver.cdp().send_raw("Network.enable", json!({})).await?;
        self.driver.cdp().send_raw("Network.emulateNetworkConditions", rate).await?;
        Ok(())
    }

    /// Makes every answer this late, in milliseconds.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn slow(&self, late: u64) -> Walk {
        let rate =
            json!({ "offline": false, "latency": late, "downloadThroughput": -1, "uploadThroughput": -1 });
        self.driver.cdp().send_raw("Network.enable", json!({})).await?;
        self.driver.cdp().send_raw("Network.emulateNetworkConditions", rate).await?;
        Ok(())
    }

    /// What the API answers to whoever is signed in on this page.
    ///
    /// # Errors
    ///
    /// Where it does not answer.
    pub async fn answer(&self, path: &str) -> Walk<serde_json::Value> {
        const ASK: &str = "
            const done = arguments[arguments.length - 1]
            fetch(arguments[0]).then((r) => r.json()).then(done, (e) => done({ failed: String(e) }))";
        Ok(self.driver.execute_async(ASK, vec![json!(path)]).await?.json().clone())
    }

    /// Opens another tab at this page and stays there. Returns the tab that was open and the new one.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn another_tab(&self, path: &str) -> Walk<(WindowHandle, WindowHandle)> {
        let before = self.driver.window().await?;
        let opened = self.driver.new_tab().await?;
        self.driver.switch_to_window(opened.clone()).await?;
        self.go(path).await?;
        Ok((before, opened))
    }

    /// Waits until fonts are there and nothing moves any more.
    ///
    /// # Errors
    ///
    /// When something keeps moving.
    pub async fn settled(&self) -> Walk {
        let ask = "return document.fonts.status === 'loaded' && document.getAnimations().length === 0";
        self.wait_for("the page to settle", async || Ok(self.ask(ask).await?.as_bool() == Some(true))).await
    }

    /// What a script returns, as JSON.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn ask(&self, script: &str) -> Walk<serde_json::Value> {
        Ok(self.driver.execute(script, Vec::new()).await?.json().clone())
    }

    /// Waits until something holds.
    ///
    /// # Errors
    ///
    /// When it does not in good time.
    pub async fn wait_for(&self, what: impl Display, mut holds: impl AsyncFnMut() -> Walk<bool>) -> Walk {
        let begun = tokio::time::Instant::now();
        let mut last = String::new();
        while begun.elapsed() < PATIENCE {
            match holds().await {
                Ok(true) => return Ok(()),
                Ok(false) => {}
                // A page that is just being drawn anew loses its elements: look again.
                Err(error) => last = format!(" ({error})"),
            }
            tokio::time::sleep(LOOK_EVERY).await;
        }
        Err(format!("waited in vain for {what}{last}").into())
    }

    async fn element(&self, script: &str, name: &str) -> Walk<Option<WebElement>> {
        let found = self.driver.execute(script, vec![json!(name)]).await?;
        if found.json().is_null() { Ok(None) } else { Ok(Some(found.element()?)) }
    }

    /// Every violation axe-core finds on the page, one line each.
    ///
    /// # Errors
    ///
    /// When axe-core is not installed (it comes with the front end's packages).
    pub async fn axe(&self) -> Walk<Vec<String>> {
        let place = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/node_modules/axe-core/axe.min.js");
        let source = std::fs::read_to_string(place)?;
        self.driver.execute(source.as_str(), Vec::new()).await?;
        const RUN: &str = "
            const done = arguments[arguments.length - 1]
            axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })
              .then((r) => done(r.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}: ${n.failureSummary.split('\\n')[1] ?? ''}`))))
              .catch((e) => done([String(e)]))";
        let found = self.driver.execute_async(RUN, Vec::new()).await?;
        let lines = found.json().as_array().cloned().unwrap_or_default();
        Ok(lines.iter().filter_map(|line| line.as_str().map(str::to_owned)).collect())
    }
}

/// Tries until it works: the driver needs a moment to listen.
async fn loop_until<T, F>(mut attempt: impl FnMut() -> F) -> Walk<T>
where
    F: Future<Output = WebDriverResult<T>>,
{
    let begun = tokio::time::Instant::now();
    loop {
        match attempt().await {
            Ok(done) => return Ok(done),
            Err(error) if begun.elapsed() > PATIENCE => return Err(error.into()),
            Err(_) => tokio::time::sleep(LOOK_EVERY).await,
        }
    }
}
