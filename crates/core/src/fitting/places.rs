//! Where a fitter may point, and where that lies on the figure of a body.

use serde::{Deserialize, Serialize};

use crate::body::{Body, Tape, View, draw_tape};
use crate::geometry::Pt;
use crate::pattern::{Covers, Pattern, Piece, PieceKind, Seam};

/// A place's name, and where it is drawn: the views that show it, with the figure's landmark it lies at.
type Row = (&'static str, &'static [(View, &'static str)]);

/// From the top down, as a fitter looks.
const PLACES: [Row; 36] = [
    ("neck side", &[(View::Front, "neck_side")]),
    ("front neckline", &[(View::Front, "pit")]),
    ("collar bone", &[(View::Front, "collar_bone")]),
    ("back neck", &[(View::Back, "nape"), (View::Side, "nape_side")]),
    ("shoulder", &[(View::Front, "shoulder_middle"), (View::Back, "shoulder_middle")]),
    ("shoulder tip", &[(View::Front, "shoulder"), (View::Back, "shoulder"), (View::Side, "shoulder_side")]),
    ("above the bust", &[(View::Front, "chest_centre")]),
    ("front armhole", &[(View::Front, "crease")]),
    ("princess line", &[(View::Front, "cup_top")]),
    ("bust", &[(View::Front, "bust_point"), (View::Side, "bust_point")]),
    ("centre front", &[(View::Front, "bust_centre")]),
    ("under the bust", &[(View::Front, "under_bust_point")]),
    ("front waist", &[(View::Front, "waist_centre"), (View::Side, "front_waist")]),
    ("shoulder blade", &[(View::Back, "shoulder_blade"), (View::Side, "blade")]),
    ("across the back", &[(View::Back, "across_centre")]),
    ("back armhole", &[(View::Back, "crease")]),
    ("back waist", &[(View::Back, "waist_centre"), (View::Side, "back_waist")]),
    ("underarm", &[(View::Front, "armpit"), (View::Back, "armpit")]),
    ("side seam", &[(View::Front, "side_middle"), (View::Back, "side_middle"), (View::Side, "side_middle")]),
    (
        "waist at the side",
        &[(View::Front, "waist_out"), (View::Back, "waist_out"), (View::Side, "waist_side")],
    ),
    ("sleeve cap", &[(View::Front, "round_shoulder"), (View::Side, "cap")]),
    ("front of the cap", &[(View::Front, "front_cap"), (View::Side, "front_cap")]),
    ("back of the cap", &[(View::Back, "back_cap"), (View::Side, "back_cap")]),
    ("upper arm", &[(View::Front, "upper_arm_middle"), (View::Back, "upper_arm_middle")]),
    ("front of the sleeve", &[(View::Side, "front_sleeve")]),
    ("back of the sleeve", &[(View::Side, "back_sleeve")]),
    ("elbow", &[(View::Back, "elbow_out"), (View::Side, "elbow_side")]),
    ("sleeve hem", &[(View::Front, "wrist_out"), (View::Back, "wrist_out"), (View::Side, "wrist_side")]),
    (
        "side below the waist",
        &[(View::Front, "top_hip_out"), (View::Back, "top_hip_out"), (View::Side, "top_hip_side")],
    ),
    ("belly", &[(View::Front, "top_hip_centre"), (View::Side, "belly")]),
    ("seat", &[(View::Back, "hip_centre"), (View::Side, "seat")]),
    ("under the seat", &[(View::Back, "under_seat"), (View::Side, "under_seat")]),
    ("hip", &[(View::Front, "hip_out"), (View::Back, "hip_out"), (View::Side, "hip_side")]),
    ("front hem", &[(View::Front, "hem_centre"), (View::Side, "front_hem")]),
    ("back hem", &[(View::Back, "hem_centre"), (View::Side, "back_hem")]),
    ("side hem", &[(View::Side, "side_hem")]),
];

/// A place to point at, on the figure of a body.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaceOnFigure {
    /// The place.
    pub name: String,
    /// Seen from.
    pub view: View,
    /// Where it is drawn: on her left where there is one on either side.
    pub at: Pt,
    /// Whether there is one on either side, the other as far from the middle.
    pub paired: bool,
}

/// The names of the places, from the top down.
pub fn places() -> impl Iterator<Item = &'static str> {
    PLACES.iter().map(|(name, _)| *name)
}

/// The places on the figure of a body, view by view.
pub fn places_on(body: &Body) -> Vec<PlaceOnFigure> {
    let on = |name: &str, view: View, landmark: &str| {
        let tape = Tape { view, level: None, through: vec![landmark.to_owned()], round: Vec::new() };
        let at = draw_tape(&tape, body)?.points.into_iter().next()?;
        Some(PlaceOnFigure {
            name: name.to_owned(),
            view,
            at,
            paired: view != View::Side && at.x.abs() > 1.0,
        })
    };
    PLACES
        .iter()
        .flat_map(|(name, views)| views.iter().filter_map(|(view, landmark)| on(name, *view, landmark)))
        .collect()
}

/// A place to point at on a piece of the pattern.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaceOnPiece {
    /// The place.
    pub name: String,
    /// The piece.
    pub piece: PieceKind,
    /// Where: the middle of a seam, or the bust point, in the piece's own millimetres.
    pub at: Pt,
}

/// The places on the pieces of a pattern: at the middle of each seam, and at the bust point.
pub fn places_on_pieces(pattern: &Pattern) -> Vec<PlaceOnPiece> {
    let of = |piece: &Piece| {
        let on = |name: &str, at: Pt| PlaceOnPiece { name: name.to_owned(), piece: piece.kind, at };
        let seams = piece.edges.iter().filter_map(|edge| {
            Some(on(
                seam_place(piece.kind, edge.seam)?,
                edge.curve.point_at(edge.curve.length() / 2.0).into(),
            ))
        });
        let bust = piece.kind.shapes_bust().then(|| piece.bust_pivot()).flatten();
        let mut found: Vec<PlaceOnPiece> = Vec::new();
        for place in seams.chain(bust.map(|at| on("bust", at.into()))) {
            // A seam that a dart divides has one place.
            if !found.iter().any(|known| known.name == place.name) {
                found.push(place);
            }
        }
        found
    };
    // What lies inside is not seen when it is worn.
    let is_seen = |piece: &&Piece| !piece.kind.is_dependent() || piece.kind.is_joined_skirt();
    pattern.pieces.iter().filter(is_seen).flat_map(of).collect()
}

/// The place a seam of a piece lies at on the body.
fn seam_place(kind: PieceKind, seam: Seam) -> Option<&'static str> {
    let (front, back) = (kind.covers() == Covers::Front, kind.covers() == Covers::Back);
    let is_skirt = kind.is_skirt();
    Some(match seam {
        Seam::Neckline if back => "back neck",
        Seam::Neckline => "front neckline",
        Seam::Shoulder => "shoulder",
        Seam::Armhole if back => "back armhole",
        Seam::Armhole => "front armhole",
        Seam::Side if is_skirt => "hip",
        Seam::CentreFront if is_skirt => "belly",
        Seam::CentreBack if is_skirt => "seat",
        Seam::Side => "side seam",
        Seam::Waist if back => "back waist",
        Seam::Waist => "front waist",
        Seam::CentreFront => "centre front",
        Seam::CentreBack => "across the back",
        Seam::Princess => "princess line",
        Seam::UnderBust => "under the bust",
        Seam::UpperEdge if back => "shoulder blade",
        Seam::UpperEdge => "above the bust",
        Seam::Cap => "sleeve cap",
        Seam::UnderSleeve | Seam::Overarm => "upper arm",
        Seam::Hem if front => "front hem",
        Seam::Hem if back => "back hem",
        Seam::Hem | Seam::SleeveEdge => "sleeve hem",
        Seam::FacingEdge | Seam::BandEdge | Seam::BandEnd | Seam::DartLeg => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_place_lies_on_the_figure_apart_from_the_others() {
        let found = places_on(&Body::middle());
        assert_eq!(found.len(), PLACES.iter().map(|(_, views)| views.len()).sum::<usize>());
        for (index, one) in found.iter().enumerate() {
            for other in &found[index + 1..] {
                let apart = (one.at.x - other.at.x).hypot(one.at.y - other.at.y);
                assert!(
                    one.view != other.view || apart > 24.0,
                    "{} and {} are {apart} apart, seen from {:?}",
                    one.name,
                    other.name,
                    one.view
                );
            }
        }
    }

    #[test]
    fn a_place_has_one_name() {
        let mut names: Vec<_> = places().collect();
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), PLACES.len());
    }
}
