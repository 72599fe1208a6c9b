//! The dress form: how much padding it needs to stand in for a client.

use std::f64::consts::PI;

use serde::{Deserialize, Serialize};

use super::{Body, Group, measurement};
use crate::{Shown, Style};

/// Levels of a form that are wound with padding, from the top.
const LEVELS: [&str; 6] =
    ["neck_base_girth", "upper_bust_girth", "bust_girth", "under_bust_girth", "waist_girth", "top_hip_girth"];
/// The lowest level.
const HIP: &str = "hip_girth";
/// Lengths by which the form's lines are compared with hers.
const LINES: [(&str, &str); 3] = [
    ("nape_to_waist_back", "the waist line"),
    ("snp_to_bust_point", "the bust level"),
    ("waist_to_hip", "the hip line"),
];
/// A level may be over by this, in millimetres: the form gives (common practice, no source).
const FORM_GIVES: f64 = 5.0;
/// A line may sit off by this, in millimetres, without a word (common practice, no source).
const LINE_OFF: f64 = 6.0;

/// One level of a form for a client.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PaddingLevel {
    /// The girth.
    pub measurement: String,
    /// Its name.
    pub name: String,
    /// The form's figure.
    pub form: Shown,
    /// Hers.
    pub client: Shown,
    /// Girth that is missing; negative where the form is over.
    pub missing: Shown,
    /// The even thickness to wind, a first guess: missing ÷ 2π.
    pub thickness: Shown,
    /// The form already exceeds her here.
    pub too_large: bool,
}

/// What a form needs to stand in for a client.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Padding {
    /// Level by level from the top, where both have a figure.
    pub levels: Vec<PaddingLevel>,
    /// Girths that one of them lacks.
    pub unknown: Vec<String>,
    /// Where her levels sit elsewhere, a sentence each.
    pub lines: Vec<String>,
    /// The form is too large somewhere: use a smaller one.
    pub too_large: bool,
}

/// The padding list of a form for a client, from the neck down.
pub fn padding(form: &Body, client: &Body, style: Style) -> Padding {
    let mut unknown = Vec::new();
    let mut levels = Vec::new();
    for row in LEVELS.iter().chain([&HIP]).filter_map(|code| measurement(code)) {
        debug_assert!(row.group == Group::Girth);
        let (Some(own), Some(hers)) = (form.get(&row.code), client.get(&row.code)) else {
            unknown.push(row.name.clone());
            continue;
        };
        levels.push(PaddingLevel {
            measurement: row.code.clone(),
            name: row.name.clone(),
            form: style.show(own),
            client: style.show(hers),
            missing: style.difference(hers, own),
            thickness: style.show((hers - own).max(0.0) / (2.0 * PI)),
            too_large: own - hers > FORM_GIVES,
        });
    }
    let lines = LINES.iter().filter_map(|(code, name)| {
        let lower = client.get(code)? - form.get(code)?;
        let way = if lower > 0.0 { "lower" } else { "higher" };
        (lower.abs() > LINE_OFF).then(|| {
            format!(
                "Her {} sits {} {way} than the form's: tape it anew.",
                &name[4..],
                style.with_unit(lower.abs())
            )
        })
    });
    Padding { lines: lines.collect(), too_large: levels.iter().any(|level| level.too_large), levels, unknown }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Check values, section 6: padding thickness Δgirth / 2π, 50 makes 7.958.
    #[test]
    fn fifty_millimetres_of_girth_want_the_published_thickness() {
        let form = Body::default().with("bust_girth", 900.0);
        let list = padding(&form, &Body::default().with("bust_girth", 950.0), Style::TENTHS);
        assert!((list.levels[0].thickness.mm - 7.958).abs() < 5e-4, "{:?}", list.levels[0]);
        assert!(!list.too_large);
        assert_eq!(list.unknown.len(), 6);
    }

    #[test]
    fn a_form_that_is_already_over_says_so() {
        let form: Body = [("waist_girth", 720.0), ("hip_girth", 960.0)].into_iter().collect();
        let client: Body = [("waist_girth", 700.0), ("hip_girth", 958.0)].into_iter().collect();
        let list = padding(&form, &client, Style::EIGHTHS);
        let over: Vec<_> = list.levels.iter().map(|level| level.too_large).collect();
        assert_eq!(over, [true, false]);
        assert!(list.too_large);
        assert_eq!(list.levels[0].thickness.mm, 0.0);
    }

    #[test]
    fn a_lower_waist_is_named() {
        let form = Body::default().with("nape_to_waist_back", 400.0);
        let list = padding(&form, &Body::default().with("nape_to_waist_back", 412.7), Style::EIGHTHS);
        assert_eq!(list.lines, ["Her waist line sits 1/2 in lower than the form's: tape it anew."]);
    }
}
