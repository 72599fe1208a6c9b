//! Differences that have one cause, told together.

use serde::{Deserialize, Serialize};

use super::{Comparison, DifferenceGrade};
use crate::body::Body;
use crate::pattern::Figure;

/// A cup that differs from the block's by this much counts, in millimetres (half a cup; ours).
const CUP_COUNTS: f64 = 12.7;

/// Several differences with one cause.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Explanation {
    /// The cause, in neutral words.
    pub title: String,
    /// How the differences follow from it, and what to do first.
    pub says: String,
    /// The differences it explains.
    pub figures: Vec<Figure>,
}

/// A sign that a figure is compared with: more, less, or within its tolerance.
#[derive(Clone, Copy, PartialEq)]
enum Sign {
    More,
    Less,
    Fits,
}

struct Seen<'a> {
    comparison: &'a Comparison,
    /// Her cup less the block's.
    more_cup: Option<f64>,
}

impl Seen<'_> {
    fn sign(&self, figure: Figure) -> Option<Sign> {
        let row = self.comparison.row(figure)?;
        let off = row.on_body.as_ref()?.mm;
        Some(match row.grade {
            DifferenceGrade::Missing => return None,
            DifferenceGrade::Fits => Sign::Fits,
            _ if off > 0.0 => Sign::More,
            _ => Sign::Less,
        })
    }

    fn are(&self, sign: Sign, figures: &[Figure]) -> Vec<Figure> {
        figures.iter().copied().filter(|figure| self.sign(*figure) == Some(sign)).collect()
    }
}

/// Explains a comparison: at most one line a cause, the one that explains most first.
pub fn explain(body: &Body, block_cup: f64, comparison: &Comparison) -> Vec<Explanation> {
    use Figure as F;
    let cup = body.get("bust_girth").zip(body.get("upper_bust_girth")).map(|(bust, upper)| bust - upper);
    let seen = Seen { comparison, more_cup: cup.map(|cup| cup - block_cup) };
    let mut found = Vec::new();
    let mut tell = |title: &str, says: &str, figures: Vec<Figure>| {
        found.push(Explanation { title: title.to_owned(), says: says.to_owned(), figures });
    };
    let (lengths_back, widths) =
        ([F::CentreBack, F::BackLength], [F::ShoulderFront, F::AcrossFront, F::AcrossBack]);
    let longer_behind = seen.are(Sign::More, &lengths_back);
    let shorter_behind = seen.are(Sign::Less, &lengths_back);
    let front = seen.sign(F::FrontLength);

    for (sign, fuller) in [(Sign::More, true), (Sign::Less, false)] {
        let cup_says =
            seen.more_cup.is_some_and(|more| if fuller { more >= CUP_COUNTS } else { more <= -CUP_COUNTS });
        let mut figures = seen.are(sign, &[F::Bust, F::FrontLength, F::BustPointDepth, F::BustSpan]);
        let behind_fits = longer_behind.is_empty() && shorter_behind.is_empty();
        let by_length = front == Some(sign) && behind_fits;
        if seen.sign(F::Bust) == Some(sign) && (cup_says || by_length) {
            let across = if fuller { Sign::Less } else { Sign::More };
            figures.extend(seen.are(across, &[F::AcrossFront]));
            if fuller {
                tell(
                    "Bust prominence",
                    "The bust is fuller than the block's on the same frame: it takes girth and front length together. \
                     A full bust gives both at once; do it before any other width.",
                    figures,
                );
            } else {
                tell(
                    "A smaller cup than the block's",
                    "The front carries more cup than she needs: girth and front length are too much together. \
                     A small bust takes both away; do it before any other width.",
                    figures,
                );
            }
        } else if seen.sign(F::Bust) == Some(sign) {
            let mut figures = vec![F::Bust];
            figures
                .extend(seen.are(sign, &[F::Waist, F::Hip, F::AcrossFront, F::AcrossBack, F::ShoulderFront]));
            if figures.len() > 1 {
                let (title, says) = if fuller {
                    (
                        "A larger frame",
                        "Bust and widths are more together while the cup is the block's: try the next size before altering.",
                    )
                } else {
                    (
                        "A smaller frame",
                        "Bust and widths are less together while the cup is the block's: try the size below before altering.",
                    )
                };
                tell(title, says, figures);
            }
        }
    }
    if !longer_behind.is_empty() && front == Some(Sign::More) {
        let mut figures = longer_behind.clone();
        figures.push(F::FrontLength);
        tell(
            "A longer bodice",
            "Front and back are longer alike: lengthen both at one level first; it moves every level below.",
            figures,
        );
    }
    if !shorter_behind.is_empty() && front == Some(Sign::Less) {
        let mut figures = shorter_behind.clone();
        figures.push(F::FrontLength);
        tell(
            "A shorter bodice",
            "Front and back are shorter alike: shorten both at one level first; it moves every level below.",
            figures,
        );
    }
    if !longer_behind.is_empty() && front != Some(Sign::More) {
        let mut figures = longer_behind;
        if seen.sign(F::ArmholeDepth) == Some(Sign::More) {
            figures.extend(seen.are(Sign::More, &[F::ArmholeDepth, F::AcrossBack]));
            tell(
                "A rounded back",
                "The back is longer over the blades while the front is not: length is wanted above the armhole level, not at the waist.",
                figures,
            );
        } else {
            tell(
                "A longer back",
                "The back is longer below the armhole level while the front is not: lengthen it there, and look how she stands.",
                figures,
            );
        }
    }
    if !shorter_behind.is_empty() && front != Some(Sign::Less) {
        tell(
            "An erect back",
            "The back is shorter while the front is not: a fold is wanted above the armhole level, not at the waist.",
            shorter_behind,
        );
    }
    for (sign, title, says) in [
        (
            Sign::More,
            "Broader shoulders",
            "Shoulder and widths are more together: set the shoulder first, then see what is left across.",
        ),
        (
            Sign::Less,
            "Narrower shoulders",
            "Shoulder and widths are less together: set the shoulder first, then see what is left across.",
        ),
    ] {
        let figures = seen.are(sign, &widths);
        if figures.len() > 1 && figures.contains(&F::ShoulderFront) {
            tell(title, says, figures);
        }
    }
    for (sign, title) in [(Sign::More, "A fuller middle"), (Sign::Less, "A slimmer middle")] {
        let figures = seen.are(sign, &[F::Waist, F::Hip]);
        if figures.len() > 1 {
            tell(
                title,
                "Waist and hip go together: darts first, then the side seams from the waist down.",
                figures,
            );
        }
    }
    let (depth, span) = (seen.sign(F::BustPointDepth), seen.sign(F::BustSpan));
    let explained = found.iter().any(|each| each.figures.contains(&F::BustPointDepth));
    if let (Some(sign), Some(_), false) = (depth.filter(|sign| *sign != Sign::Fits), span, explained) {
        let title = if sign == Sign::More { "A lower bust point" } else { "A higher bust point" };
        let mut figures = vec![F::BustPointDepth];
        figures.extend(span.filter(|span| *span != Sign::Fits).map(|_| F::BustSpan));
        found.push(Explanation {
            title: title.to_owned(),
            says: "The darts must point at hers: move their points before anything is taken in or let out."
                .to_owned(),
            figures,
        });
    }
    found.sort_by_key(|each| std::cmp::Reverse(each.figures.len()));
    found
}
