//! What a person's hands do on a page: press, type, choose, tap, draw; everything found by the words beside it.

use std::path::Path;
use std::sync::atomic::{AtomicU32, Ordering::Relaxed};

use serde_json::json;
use thirtyfour::prelude::*;

use crate::{Browser, Walk};

/// What the hands have done: presses and taps, and keys typed. A field that is typed into was pressed first.
#[derive(Debug, Default)]
pub(crate) struct Done {
    presses: AtomicU32,
    keys: AtomicU32,
}

impl Done {
    fn pressed(&self, times: u32) {
        self.presses.fetch_add(times, Relaxed);
    }

    fn typed(&self, keys: &TypingData) {
        self.keys.fetch_add(keys.as_vec().len() as u32, Relaxed);
    }
}

impl Browser {
    /// How often was pressed or tapped until now, and how many keys were typed.
    pub fn presses_and_keys(&self) -> (u32, u32) {
        (self.done.presses.load(Relaxed), self.done.keys.load(Relaxed))
    }

    /// Presses the button, link or tab of this name; an exact name before one that begins so.
    ///
    /// # Errors
    ///
    /// When there is none, or it cannot be pressed.
    pub async fn press(&self, name: &str) -> Walk {
        self.done.pressed(1);
        const FIND: &str = "
            // A switch is an unseen input inside the thing one presses.
            const seen = (e) => e.closest('.el-switch') ?? e
            const shown = (e) => seen(e).getClientRects().length > 0 && !e.disabled
            const nameOf = (e) => (e.getAttribute('aria-label') ?? e.innerText ?? '').trim().replace(/\\s+/g, ' ')
            const all = [...document.querySelectorAll('button, a, [role=switch], [role=menuitem], summary')].filter(shown)
            // What lies over the page is meant first: a dialog, the list of a menu.
            const over = [...document.querySelectorAll('.el-dialog, .el-dropdown-menu')].filter((e) => e.getClientRects().length)
            const near = over.length ? all.filter((e) => over.some((each) => each.contains(e))) : all
            for (const among of [near, all]) {
              const found = among.find((e) => nameOf(e) === arguments[0]) ?? among.find((e) => nameOf(e).startsWith(arguments[0]))
              if (found) { seen(found).scrollIntoView({ block: 'center' }); return seen(found) }
            }
            return null";
        let pressed = async || match self.element(FIND, name).await? {
            Some(found) => Ok(found.click().await.is_ok()),
            None => Ok(false),
        };
        self.wait_for(format!("a button \u{201c}{name}\u{201d}"), pressed).await
    }

    /// Presses a button inside the part of the page that carries this label.
    ///
    /// # Errors
    ///
    /// When there is none.
    pub async fn press_within(&self, part: &str, name: &str) -> Walk {
        self.done.pressed(1);
        const FIND: &str = "
            const part = document.querySelector(`[aria-label=\"${arguments[0]}\"]`)
            const wordsOf = (e) => (e.getAttribute('aria-label') ?? e.innerText).trim().replace(/\\s+/g, ' ')
            const all = [...(part?.querySelectorAll('button, label, a') ?? [])].filter((e) => e.getClientRects().length && !e.disabled)
            const found = all.find((e) => wordsOf(e) === arguments[1])
            found?.scrollIntoView({ block: 'center' })
            return found ?? null";
        let pressed = async || {
            let found = self.driver.execute(FIND, vec![json!(part), json!(name)]).await?;
            Ok(!found.json().is_null() && found.element()?.click().await.is_ok())
        };
        self.wait_for(format!("\u{201c}{name}\u{201d} in \u{201c}{part}\u{201d}"), pressed).await
    }

    /// Taps an element with a finger.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn tap(&self, element: &WebElement) -> Walk {
        self.done.pressed(1);
        element.scroll_into_view().await?;
        const MIDDLE: &str = "
            const { x, y, width, height } = arguments[0].getBoundingClientRect()
            return [x + width / 2, y + height / 2]";
        let at = self.driver.execute(MIDDLE, vec![element.to_json()?]).await?;
        let finger = json!([{ "x": at.json()[0], "y": at.json()[1] }]);
        let cdp = self.driver.cdp();
        cdp.send_raw("Emulation.setTouchEmulationEnabled", json!({ "enabled": true })).await?;
        let down = json!({ "type": "touchStart", "touchPoints": finger });
        cdp.send_raw("Input.dispatchTouchEvent", down).await?;
        cdp.send_raw("Input.dispatchTouchEvent", json!({ "type": "touchEnd", "touchPoints": [] })).await?;
        Ok(())
    }

    async fn place(&self, name: &str) -> Walk<WebElement> {
        const FIND: &str = "
            // Of a left and a right place the first, unless the name says which.
            const named = `g.place[aria-label=\"${arguments[0]}\"], g.place[aria-label^=\"${arguments[0]}, her \"]`
            const place = document.querySelector(named)
            place?.scrollIntoView({ block: 'center' })
            return place";
        let mut found = None;
        self.wait_for(format!("the place {name}"), async || {
            found = self.element(FIND, name).await?;
            Ok(found.is_some())
        })
        .await?;
        found.ok_or_else(|| format!("no place {name}").into())
    }

    /// Taps a place on the figure or on the pattern.
    ///
    /// # Errors
    ///
    /// When it cannot be tapped.
    pub async fn tap_place(&self, name: &str) -> Walk {
        self.done.pressed(1);
        let tapped = async || Ok(self.place(name).await?.click().await.is_ok());
        self.wait_for(format!("a tap on {name}"), tapped).await
    }

    /// Draws a line with the finger, from one place to another.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn draw_line(&self, from: &str, to: &str) -> Walk {
        self.done.pressed(1);
        let (to, from) = (self.place(to).await?, self.place(from).await?);
        let stroke = self.driver.action_chain().click_and_hold_element(&from).move_to_element_center(&to);
        Ok(stroke.release().perform().await?)
    }

    /// The field of this label.
    ///
    /// # Errors
    ///
    /// When there is none.
    pub async fn field(&self, label: &str) -> Walk<WebElement> {
        const FIND: &str = "
            const wordsOf = (e) => e.innerText.trim().replace(/\\s+/g, ' ')
            const shown = (e) => e.getClientRects().length > 0
            const labels = [...document.querySelectorAll('label')].filter(shown)
            const label = labels.find((e) => wordsOf(e) === arguments[0]) ?? labels.find((e) => wordsOf(e).startsWith(arguments[0]))
            return label ? (label.control ?? label.querySelector('input')) : null";
        let mut found = None;
        self.wait_for(format!("a field \u{201c}{label}\u{201d}"), async || {
            found = self.element(FIND, label).await?;
            Ok(found.is_some())
        })
        .await?;
        found.ok_or_else(|| format!("no field {label}").into())
    }

    /// The field of this label where it is another element than an input: a select, a text of several lines.
    ///
    /// # Errors
    ///
    /// When there is none.
    pub async fn field_of(&self, label: &str, element: &str) -> Walk<WebElement> {
        let field = self.field(label).await?;
        if field.tag_name().await?.eq_ignore_ascii_case(element) {
            Ok(field)
        } else {
            Err(format!("the field {label} is no {element}").into())
        }
    }

    /// Opens the list of this label and chooses the entry of this name, or the first that begins so.
    ///
    /// # Errors
    ///
    /// When there is no such list or entry.
    pub async fn pick(&self, label: &str, entry: &str) -> Walk {
        // The list, and the entry.
        self.done.pressed(2);
        const ENTRY: &str = "
            const lists = [...document.querySelectorAll('.el-select-dropdown')].filter((e) => e.getClientRects().length > 0)
            const wordsOf = (e) => e.innerText.trim().replace(/\\s+/g, ' ')
            const entries = lists.flatMap((list) => [...list.querySelectorAll('[role=option]')])
            const found = entries.find((e) => wordsOf(e) === arguments[0]) ?? entries.find((e) => wordsOf(e).startsWith(arguments[0]))
            found?.scrollIntoView({ block: 'nearest' })
            return found ?? null";
        let field = self.field(label).await?;
        field.scroll_into_view().await?;
        self.wait_for(format!("\u{201c}{entry}\u{201d} of \u{201c}{label}\u{201d}"), async || {
            if let Some(found) = self.element(ENTRY, entry).await? {
                return Ok(found.click().await.is_ok());
            }
            if field.attr("aria-expanded").await?.as_deref() != Some("true") {
                // The wrapper is pressed: the field inside it is as wide as what stands in it.
                self.driver
                    .execute("arguments[0].closest('.el-select__wrapper').click()", vec![field.to_json()?])
                    .await?;
            }
            Ok(false)
        })
        .await
    }

    /// Brings a file to the place of this label where files are dropped or chosen.
    ///
    /// # Errors
    ///
    /// When there is no such place.
    pub async fn bring(&self, label: &str, file: &Path) -> Walk {
        const FIND: &str = "
            const groups = [...document.querySelectorAll('[role=group]')]
            const named = (e) => document.getElementById(e.getAttribute('aria-labelledby') ?? '')?.innerText.trim()
            return groups.find((e) => named(e)?.startsWith(arguments[0]))?.querySelector('input[type=file]') ?? null";
        let mut found = None;
        self.wait_for(format!("a place for the file \u{201c}{label}\u{201d}"), async || {
            found = self.element(FIND, label).await?;
            Ok(found.is_some())
        })
        .await?;
        self.done.pressed(1);
        let place = found.ok_or_else(|| format!("no place {label}"))?;
        Ok(place.send_keys(file.display().to_string()).await?)
    }

    /// Puts text into a field that is named without a label beside it.
    ///
    /// # Errors
    ///
    /// When there is none.
    pub async fn fill_named(&self, name: &str, text: impl Into<TypingData>) -> Walk {
        const FIND: &str = "return document.querySelector(`input[aria-label=\"${arguments[0]}\"]`)";
        let mut found = None;
        self.wait_for(format!("a field named {name}"), async || {
            found = self.element(FIND, name).await?;
            Ok(found.is_some())
        })
        .await?;
        let field = found.ok_or_else(|| format!("no field named {name}"))?;
        let text = text.into();
        self.done.pressed(1);
        self.done.typed(&text);
        Ok(field.send_keys(text).await?)
    }

    /// Puts text into a field, as typed.
    ///
    /// # Errors
    ///
    /// When the field cannot be typed into.
    pub async fn fill(&self, label: &str, text: &str) -> Walk {
        self.done.pressed(1);
        self.done.typed(&text.into());
        // A dialog that is still opening takes no keys yet, and a field that is just drawn anew is another one.
        let mut found = None;
        self.wait_for(format!("the field \u{201c}{label}\u{201d} to take keys"), async || {
            let field = self.field(label).await?;
            let takes = field.send_keys(Key::Control + "a").await.is_ok();
            found = Some(field).filter(|_| takes);
            Ok(takes)
        })
        .await?;
        let field = found.ok_or_else(|| format!("no field {label}"))?;
        Ok(field.send_keys(text).await?)
    }

    /// Types into whatever has the focus.
    ///
    /// # Errors
    ///
    /// What the driver says.
    pub async fn type_keys(&self, keys: impl Into<TypingData>) -> Walk {
        let keys = keys.into();
        self.done.typed(&keys);
        Ok(self.driver.active_element().await?.send_keys(keys).await?)
    }

    /// Chooses the chip or radio of this label.
    ///
    /// # Errors
    ///
    /// When there is none.
    pub async fn choose(&self, label: &str) -> Walk {
        self.done.pressed(1);
        const FIND: &str = "
            const wordsOf = (e) => e.innerText.trim().replace(/\\s+/g, ' ')
            const labels = [...document.querySelectorAll('label')].filter((e) => e.getClientRects().length > 0)
            const label = labels.find((e) => wordsOf(e) === arguments[0])
            label?.scrollIntoView({ block: 'center' })
            return label ?? null";
        let chosen = async || match self.element(FIND, label).await? {
            Some(found) => Ok(found.click().await.is_ok()),
            None => Ok(false),
        };
        self.wait_for(format!("\u{201c}{label}\u{201d} to be chosen"), chosen).await
    }
}
