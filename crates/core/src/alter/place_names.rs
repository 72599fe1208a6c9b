//! Names on the drawing of a stage: every line and point its words speak of is named where it lies.

use kurbo::Point;
use serde::{Deserialize, Serialize};

use crate::geometry::Pt;
use crate::pattern::{Piece, Seam};

/// A name on a drawing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaceName {
    /// As the words have it.
    pub name: String,
    /// Where it lies.
    pub at: Pt,
}

impl PlaceName {
    pub(super) fn new(name: impl Into<String>, at: Point) -> Self {
        Self { name: name.into(), at: at.into() }
    }
}

/// The seams, darts, levels and points of a piece that these words speak of, each once.
pub(super) fn named_in(words: &str, piece: &Piece) -> Vec<PlaceName> {
    let mut rest = words.to_lowercase();
    let mut known = places(piece);
    // The longer name first: a waist dart is not the waist.
    known.sort_by_key(|(name, _)| std::cmp::Reverse(name.len()));
    let spoken = known.into_iter().filter(|(name, _)| take_out(&mut rest, name));
    let mut found: Vec<PlaceName> = Vec::new();
    for (name, at) in spoken {
        if !found.iter().any(|each| each.name == name) {
            found.push(PlaceName::new(name, at));
        }
    }
    found
}

/// Takes every mention of a name out of the words; whether there was one.
fn take_out(words: &mut String, name: &str) -> bool {
    let ends = |at: usize| !words[at..].starts_with(char::is_alphabetic);
    let begins = |at: usize| !words[..at].ends_with(char::is_alphabetic);
    let found: Vec<usize> = words
        .match_indices(name)
        .map(|(at, _)| at)
        .filter(|at| begins(*at) && (ends(at + name.len()) || words[at + name.len()..].starts_with('s')))
        .collect();
    for at in &found {
        words.replace_range(*at..at + name.len(), &"-".repeat(name.len()));
    }
    !found.is_empty()
}

fn places(piece: &Piece) -> Vec<(&'static str, Point)> {
    let mut places = Vec::new();
    for seam in Seam::ALL {
        let longest = piece
            .edges_of(seam)
            .filter(|edge| edge.dart.is_none())
            .max_by(|a, b| a.curve.length().total_cmp(&b.curve.length()));
        if let Some(edge) = longest {
            let middle = edge.curve.point_at(edge.curve.length() / 2.0);
            places.push((seam.name(), middle));
            places.extend(short_name(seam).map(|name| (name, middle)));
        }
    }
    for dart in &piece.darts {
        if let Some((first, second)) = piece.mouth(dart.place) {
            places.push((dart.place.name(), first.midpoint(second).lerp(dart.pivot, 0.4)));
        }
    }
    for level in &piece.levels {
        if let [first, second, ..] = level.points[..] {
            places.push((level.name.name(), first.lerp(second, 0.4)));
        }
    }
    places.extend(piece.bust_pivot().filter(|_| piece.kind.is_front()).map(|at| ("bust point", at)));
    if piece.first_edge(Seam::Shoulder).is_some() {
        places.extend([("neck side", piece.neck_side()), ("tip", piece.tip())]);
    }
    if piece.first_edge(Seam::Armhole).is_some() {
        places.push(("underarm", piece.underarm()));
    }
    if piece.first_edge(Seam::Neckline).is_some() {
        places.push((if piece.kind.is_front() { "pit" } else { "nape" }, piece.centre_top()));
    }
    places
}

/// What a seam is called where no other can be meant.
const fn short_name(seam: Seam) -> Option<&'static str> {
    match seam {
        Seam::CentreFront | Seam::CentreBack => Some("centre"),
        Seam::Side => Some("side"),
        Seam::Cap => Some("cap"),
        _ => None,
    }
}
