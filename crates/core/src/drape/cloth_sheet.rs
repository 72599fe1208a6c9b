//! The cloth before it goes on: how large each piece is torn, and what is ruled on it, from the figures of a body or a form.
//!
//! Sizes and distances are common practice, no source.

use serde::Serialize;

use super::report::Draped;
use crate::body::{Body, measurement};
use crate::geometry::Pt;
use crate::{Natural, Shown, Style};

/// More than is draped, above and below together; and beside.
const SPARE: Natural = Natural::new(4.0, 100.0);
/// The grain line from the edge that lies at the centre.
const GRAIN: Natural = Natural::new(1.0, 25.0);
/// Ease in the span, half of it.
const SPAN_EASE: Natural = Natural::new(0.125, 3.0);
/// The plumb guide inside the armhole's ridge.
const INSIDE_RIDGE: Natural = Natural::new(1.75, 44.0);
/// The blades, as a share of the way from nape to waist.
const BLADES: f64 = 0.25;

/// A figure of the sheet.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClothFigure {
    /// What it is.
    pub name: &'static str,
    /// How it is reckoned, or from where it is measured.
    pub from: String,
    /// Exact, and to the mark that is ruled by: an exact half of an eighth is a sixteenth.
    pub shown: Shown,
}

/// A line that is ruled on the cloth, or a place that is crossed on it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClothLine {
    /// What it is called.
    pub name: &'static str,
    /// From the cloth's upper corner at the centre: right and down.
    pub from: Pt,
    /// Where it ends; the same place for a cross.
    pub to: Pt,
}

/// One piece of cloth.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrapingCloth {
    /// What is draped with it.
    pub piece: Draped,
    /// Along the lengthwise thread, in millimetres.
    pub length: f64,
    /// Along the crosswise one.
    pub width: f64,
    /// What is measured on it, in the order of the work.
    pub figures: Vec<ClothFigure>,
    /// What is ruled on it.
    pub lines: Vec<ClothLine>,
}

/// Both pieces.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClothSheet {
    /// Front and back.
    pub cloths: [DrapingCloth; 2],
}

/// From the nape up to the neck side, where the neck side's own length behind is not measured.
const NECK_SIDE_RISES: Natural = Natural::new(0.75, 20.0);

/// The readings the sheet is reckoned from.
const NEEDED: [&str; 7] = [
    "bust_girth",
    "bust_span",
    "snp_to_bust_point",
    "snp_to_waist_front",
    "nape_to_waist_back",
    "across_front",
    "across_back",
];

/// The cloth of both pieces for these figures.
///
/// # Errors
///
/// The names of the readings that are missing.
pub fn cloth_sheet(body: &Body, style: Style) -> Result<ClothSheet, Vec<String>> {
    let missing = NEEDED.iter().filter(|code| body.get(code).is_none());
    let missing: Vec<String> =
        missing.map(|code| measurement(code).map_or(*code, |row| row.name.as_str()).to_owned()).collect();
    if !missing.is_empty() {
        return Err(missing);
    }
    let reckoned = Reckoned { body, style };
    Ok(ClothSheet { cloths: [reckoned.front(), reckoned.back()] })
}

struct Reckoned<'a> {
    body: &'a Body,
    style: Style,
}

impl Reckoned<'_> {
    fn of(&self, code: &str) -> f64 {
        self.body.get(code).unwrap_or_default()
    }

    fn usual(&self, figure: Natural) -> f64 {
        figure.in_unit(self.style.unit())
    }

    fn written(&self, figure: Natural) -> String {
        self.style.with_unit(self.usual(figure))
    }

    fn figure(&self, name: &'static str, from: String, mm: f64) -> ClothFigure {
        // A quarter of a girth often lies half-way between two marks: then the finer mark is the figure.
        let shown = Shown { text: self.style.typed(mm), ..self.style.show(mm) };
        ClothFigure { name, from, shown }
    }

    fn front(&self) -> DrapingCloth {
        let spare = self.usual(SPARE);
        let level = spare / 2.0 + self.of("snp_to_bust_point");
        let apex = self.usual(GRAIN) + self.of("bust_span") / 2.0 + self.usual(SPAN_EASE);
        let mut cloth = self.cloth(
            Draped::Front,
            (self.of("snp_to_waist_front"), "neck side to waist in front".to_owned()),
            (level, "bust level", "neck side to bust point".to_owned()),
            ("across_front", "half the across front"),
        );
        let from = format!("from the grain line: half the span and {} of ease", self.written(SPAN_EASE));
        let figure = self.figure("bust point", from, apex - self.usual(GRAIN));
        cloth.figures.insert(4, figure);
        let at = Pt { x: apex, y: level };
        cloth.lines.push(ClothLine { name: "bust point", from: at, to: at });
        cloth
    }

    fn back(&self) -> DrapingCloth {
        let nape = self.of("nape_to_waist_back");
        let measured = self.body.get("snp_to_waist_back");
        let (length, from) = match measured {
            Some(mm) => (mm, "neck side to waist behind".to_owned()),
            None => {
                let rise = self.usual(NECK_SIDE_RISES);
                (
                    nape + rise,
                    format!("nape to waist, and {} up to the neck side", self.style.with_unit(rise)),
                )
            }
        };
        let level = self.usual(SPARE) / 2.0 + (length - nape) + BLADES * nape;
        self.cloth(
            Draped::Back,
            (length, from),
            (level, "blade level", "to the nape, and a quarter of nape to waist".to_owned()),
            ("across_back", "half the across back"),
        )
    }

    fn cloth(
        &self,
        piece: Draped,
        (down, down_from): (f64, String),
        (level, level_name, level_from): (f64, &'static str, String),
        (ridge, ridge_from): (&str, &str),
    ) -> DrapingCloth {
        let (spare, grain) = (self.usual(SPARE), self.usual(GRAIN));
        let length = down + spare;
        let width = self.of("bust_girth") / 4.0 + spare;
        let guide = grain + self.of(ridge) / 2.0 - self.usual(INSIDE_RIDGE);
        let more = self.written(SPARE);
        let figures = vec![
            self.figure("length", format!("{down_from}, and {more}"), length),
            self.figure("width", format!("a quarter of the bust, and {more}"), width),
            self.figure("grain line", "from the edge at the centre".to_owned(), grain),
            self.figure(
                level_name,
                format!(
                    "from the upper edge: {} above the neck side, and {level_from}",
                    self.style.with_unit(spare / 2.0)
                ),
                level,
            ),
            self.figure(
                "plumb guide",
                format!(
                    "from the grain line: {ridge_from}, {} inside the armhole's ridge",
                    self.written(INSIDE_RIDGE)
                ),
                guide - grain,
            ),
        ];
        let line = |name, (x, y): (f64, f64), (u, v): (f64, f64)| ClothLine {
            name,
            from: Pt { x, y },
            to: Pt { x: u, y: v },
        };
        let lines = vec![
            line("grain line", (grain, 0.0), (grain, length)),
            line(level_name, (0.0, level), (width, level)),
            line("plumb guide", (guide, level), (guide, length)),
        ];
        DrapingCloth { piece, length, width, figures, lines }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::INCH;

    fn body() -> Body {
        let inches = [
            ("bust_girth", 36.25),
            ("bust_span", 7.5),
            ("snp_to_bust_point", 10.5),
            ("snp_to_waist_front", 17.25),
            ("nape_to_waist_back", 16.0),
            ("snp_to_waist_back", 16.875),
            ("across_front", 13.5),
            ("across_back", 14.0),
        ];
        inches.into_iter().fold(Body::default(), |body, (code, inches)| body.with(code, inches * INCH))
    }

    fn text(cloth: &DrapingCloth, name: &str) -> String {
        cloth.figures.iter().find(|figure| figure.name == name).unwrap().shown.text.clone()
    }

    #[test]
    fn both_cloths_of_a_house_of_inches() {
        let [front, back] = cloth_sheet(&body(), Style::EIGHTHS).unwrap().cloths;
        assert_eq!((text(&front, "length"), text(&back, "length")), ("21 1/4".into(), "20 7/8".into()));
        // 36 1/4 / 4 = 9 1/16, an exact half of an eighth, and 4.
        assert_eq!(text(&front, "width"), "13 1/16");
        assert_eq!((text(&front, "grain line"), text(&front, "bust point")), ("1".into(), "3 7/8".into()));
        assert_eq!(
            (text(&front, "bust level"), text(&back, "blade level")),
            ("12 1/2".into(), "6 7/8".into())
        );
        assert_eq!((text(&front, "plumb guide"), text(&back, "plumb guide")), ("5".into(), "5 1/4".into()));
        let point = front.lines.iter().find(|line| line.name == "bust point").unwrap();
        assert!((point.from.x - 4.875 * INCH).abs() < 1e-9 && (point.from.y - 12.5 * INCH).abs() < 1e-9);
        for cloth in [&front, &back] {
            for line in &cloth.lines {
                let is_on =
                    |at: Pt| at.x >= 0.0 && at.x <= cloth.width && at.y >= 0.0 && at.y <= cloth.length;
                assert!(is_on(line.from) && is_on(line.to), "{line:?} leaves its cloth");
            }
        }
    }

    #[test]
    fn what_is_not_measured_is_named() {
        let without = cloth_sheet(&Body::default().with("bust_girth", 920.0), Style::TENTHS).unwrap_err();
        assert_eq!(without.len(), 6);
        assert!(without.contains(&"Bust span".to_owned()), "{without:?}");
    }

    #[test]
    fn without_the_neck_side_behind_it_is_reckoned_from_the_nape() {
        let mut without = Body::default();
        for (code, mm) in body().iter().filter(|(code, _)| *code != "snp_to_waist_back") {
            without = without.with(code, mm);
        }
        let [_, back] = cloth_sheet(&without, Style::EIGHTHS).unwrap().cloths;
        assert_eq!(text(&back, "length"), "20 3/4");
    }
}
