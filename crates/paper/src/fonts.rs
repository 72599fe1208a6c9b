//! The fonts that are shipped, and which of them draws what: no character vanishes.
//!
//! The house's own face has no root sign, no eighths and no other scripts. What it lacks is drawn by the first
//! fallback that has it; what none of them has is drawn as a box, and the page says what the box means.

use std::cell::Cell;
use std::rc::Rc;

use krilla::text::Font;
use skrifa::instance::{LocationRef, Size};
use skrifa::metrics::GlyphMetrics;
use skrifa::{FontRef, MetadataProvider, charmap::Charmap};
use unicode_normalization::UnicodeNormalization;

use super::PaperError;

/// Width of the box that stands for a character no font has, as a share of the size.
pub(crate) const BOX_WIDTH: f64 = 0.6;

/// One font file: for the PDF, and to ask what it holds.
struct Face {
    pdf: Font,
    characters: Charmap<'static>,
    metrics: GlyphMetrics<'static>,
}

impl Face {
    fn new(data: &'static [u8]) -> Result<Self, PaperError> {
        let reader = FontRef::new(data).map_err(|_| PaperError::Font)?;
        Ok(Self {
            pdf: Font::new(data.into(), 0).ok_or(PaperError::Font)?,
            characters: reader.charmap(),
            // Of size 1: an advance is a share of the size.
            metrics: reader.glyph_metrics(Size::new(1.0), LocationRef::default()),
        })
    }

    fn has(&self, c: char) -> bool {
        self.characters.map(c).is_some_and(|glyph| glyph.to_u32() != 0)
    }

    fn advance(&self, c: char) -> f64 {
        let glyph = self.characters.map(c).unwrap_or_default();
        f64::from(self.metrics.advance_width(glyph).unwrap_or_default())
    }
}

/// Characters that follow each other and are drawn by the same font.
pub(crate) struct Run<'a> {
    /// The font; `None` where no shipped font has the character.
    pub(crate) font: Option<&'a Font>,
    /// What it draws.
    pub(crate) text: String,
    /// How wide it is, as a share of the size.
    pub(crate) width: f64,
}

/// A face of the house with what stands in for it.
pub(crate) struct Typeface {
    faces: Vec<Face>,
    boxes: Rc<Cell<bool>>,
}

impl Typeface {
    /// The words as they are drawn, run by run.
    pub(crate) fn runs(&self, words: &str) -> Vec<Run<'_>> {
        let mut runs: Vec<(Option<usize>, Run<'_>)> = Vec::new();
        // Composed, so that an accent is not looked for by itself.
        for c in words.nfc().map(|c| if c.is_control() { ' ' } else { c }) {
            if is_unseen(c) {
                continue;
            }
            let before = runs.last().and_then(|(face, _)| *face);
            // A space between two words of another script belongs to them.
            let stays = before.filter(|face| !c.is_alphanumeric() && self.faces[*face].has(c));
            let face = stays.or_else(|| self.faces.iter().position(|face| face.has(c)));
            let width = face.map_or(BOX_WIDTH, |face| self.faces[face].advance(c));
            if face.is_none() {
                self.boxes.set(true);
            }
            match runs.last_mut().filter(|(last, _)| *last == face && face.is_some()) {
                Some((_, run)) => {
                    run.text.push(c);
                    run.width += width;
                }
                None => {
                    let font = face.map(|face| &self.faces[face].pdf);
                    runs.push((face, Run { font, text: c.to_string(), width }));
                }
            }
        }
        runs.into_iter().map(|(_, run)| run).collect()
    }

    /// How wide the words are at this size, in millimetres.
    pub(crate) fn width(&self, words: &str, size: f64) -> f64 {
        self.runs(words).iter().map(|run| run.width).sum::<f64>() * size
    }

    /// The words in lines of at most this width, broken between words; a word that is longer than a line is broken
    /// where the line ends. Nothing is left out.
    pub(crate) fn wrapped(&self, words: &str, width: f64, size: f64) -> Vec<String> {
        let mut lines: Vec<String> = Vec::new();
        for word in words.split_whitespace().flat_map(|word| self.broken(word, width, size)) {
            match lines.last_mut().filter(|last| self.width(&format!("{last} {word}"), size) <= width) {
                Some(last) => {
                    last.push(' ');
                    last.push_str(&word);
                }
                None => lines.push(word),
            }
        }
        lines
    }

    fn broken(&self, word: &str, width: f64, size: f64) -> Vec<String> {
        let mut parts = vec![String::new()];
        for c in word.chars() {
            let last = parts
                .last_mut()
                .filter(|last| last.is_empty() || self.width(&format!("{last}{c}"), size) <= width);
            match last {
                Some(last) => last.push(c),
                None => parts.push(c.to_string()),
            }
        }
        parts
    }
}

/// Marks that only order or join what stands beside them: they draw nothing in any font.
fn is_unseen(c: char) -> bool {
    matches!(c, '\u{ad}' | '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2060}'..='\u{2069}' | '\u{fe00}'..='\u{fe0f}' | '\u{feff}')
}

/// What words are drawn with.
pub(crate) struct Fonts {
    /// For text.
    pub(crate) regular: Typeface,
    /// For headings and figures.
    pub(crate) bold: Typeface,
    boxes: Rc<Cell<bool>>,
}

impl Fonts {
    /// The fonts shipped with the program: Alegreya Sans, then DejaVu Sans (fractions, root, Greek, Cyrillic, Hebrew,
    /// Arabic and more), Droid Sans Fallback (Chinese, Japanese), Nanum Square (Korean).
    pub(crate) fn shipped() -> Result<Self, PaperError> {
        let boxes = Rc::new(Cell::new(false));
        let typeface = |own: &'static [u8], other: &'static [u8]| {
            let east: &'static [u8] = include_bytes!("../fonts/DroidSansFallbackFull.ttf");
            let korean: &'static [u8] = include_bytes!("../fonts/NanumSquareR.ttf");
            let faces = [own, other, east, korean].into_iter().map(Face::new).collect::<Result<_, _>>()?;
            Ok(Typeface { faces, boxes: boxes.clone() })
        };
        Ok(Self {
            regular: typeface(
                include_bytes!("../fonts/AlegreyaSans-Regular.ttf"),
                include_bytes!("../fonts/DejaVuSans.ttf"),
            )?,
            bold: typeface(
                include_bytes!("../fonts/AlegreyaSans-Bold.ttf"),
                include_bytes!("../fonts/DejaVuSans-Bold.ttf"),
            )?,
            boxes,
        })
    }

    /// Whether a box was drawn since this was last asked.
    pub(crate) fn drew_boxes(&self) -> bool {
        self.boxes.replace(false)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every sign the core writes into a formula or a figure, and names in the scripts a house may meet.
    const SIGNS: &str = "0123456789 ½¼¾⅛⅜⅝⅞√²³×÷·−±≤≥≠≈°π∠→←↑↓½“”‘’…–—″′% ψφτκδΔΣ";
    const NAMES: [&str; 9] = [
        "Zoë Ångström",
        "Łucja Żółć",
        "Ελένη Παπαδάκη",
        "Оксана Ковальчук",
        "רבקה כהן",
        "ليلى حداد",
        "山田花子",
        "김민지 뷁똠",
        "Nguyễn Thị Ánh",
    ];

    #[test]
    fn every_sign_and_name_is_drawn_by_some_font() {
        let fonts = Fonts::shipped().unwrap();
        for words in NAMES.into_iter().chain([SIGNS]) {
            for typeface in [&fonts.regular, &fonts.bold] {
                for run in typeface.runs(words) {
                    assert!(run.font.is_some(), "{words}: no font has {:?}", run.text);
                    assert!(run.width > 0.0, "{words}: {:?}", run.text);
                }
                let drawn: String = typeface.runs(words).into_iter().map(|run| run.text).collect();
                assert_eq!(drawn, words.nfc().collect::<String>());
            }
        }
        assert!(!fonts.drew_boxes());
    }

    #[test]
    fn what_no_font_has_is_a_box_and_is_said() {
        let fonts = Fonts::shipped().unwrap();
        let runs = fonts.regular.runs("a\u{13000}b");
        assert_eq!(runs.iter().map(|run| run.font.is_some()).collect::<Vec<_>>(), [true, false, true]);
        assert!(fonts.drew_boxes());
        assert!(!fonts.drew_boxes());
    }

    #[test]
    fn two_words_of_another_script_stay_in_one_run() {
        let fonts = Fonts::shipped().unwrap();
        let runs = fonts.regular.runs("for רבקה כהן, 37⅜");
        let texts: Vec<&str> = runs.iter().map(|run| run.text.as_str()).collect();
        assert_eq!(texts, ["for ", "רבקה כהן, ", "37", "⅜"]);
    }

    #[test]
    fn words_are_broken_between_and_never_lost() {
        let fonts = Fonts::shipped().unwrap();
        let words = "Draw the armhole: square from the shoulder, straight down past the across line.";
        let lines = fonts.regular.wrapped(words, 60.0, 3.7);
        assert!(
            lines.len() > 1 && lines.iter().all(|line| fonts.regular.width(line, 3.7) <= 60.0),
            "{lines:?}"
        );
        assert_eq!(lines.join(" "), words);
        let long = "Donaudampfschifffahrtsgesellschaftskleid";
        let lines = fonts.regular.wrapped(long, 20.0, 3.7);
        assert!(lines.len() > 1 && lines.iter().all(|line| fonts.regular.width(line, 3.7) <= 20.0));
        assert_eq!(lines.concat(), long);
    }
}
