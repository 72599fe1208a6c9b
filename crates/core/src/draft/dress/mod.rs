//! The dress block to the hip: the direct method without a waist seam, so the waist darts have two points.

mod back;
mod front;
mod shared;

use serde::{Deserialize, Serialize};

use super::clash::Clash;
use super::direct::{Direct, DirectReadings, Draft, armhole_note, shoulder_width_note, steep_shoulder};
use super::sheet::{Sheet, StepLine};
use crate::Style;
use crate::pattern::{Pattern, Piece, PieceKind};

/// The constants of the dress block besides those of the bodice. Common practice, no source.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Dress {
    /// Its neck width is a fifth of the neck less this, in millimetres.
    pub neck_width_less: f64,
    /// Its front neck is this much deeper than wide, in millimetres (1/2 in).
    pub neck_depth_more: f64,
    /// The dart's share of what the waist is narrower than the bust; the side takes the rest.
    pub dart_share: f64,
    /// Front and back side take the waist in by the height each has for it, so that both seams lean alike.
    pub balanced: bool,
    /// The front armhole lies where the bodice's does; otherwise level with the back's armpit.
    pub armhole_by_bust: bool,
    /// The front dart ends this far above hip level, in millimetres.
    pub front_dart_above_hip: f64,
    /// The back dart ends this far above hip level, in millimetres.
    pub back_dart_above_hip: f64,
    /// The level at which the upper bust applies lies this far above the underarm, in millimetres.
    pub upper_bust_above: f64,
    /// At least this much lies between that level and the bust line, in millimetres.
    pub least_rise: f64,
    /// A front waist dart is stitched this far short of the bust point, in millimetres.
    pub front_point: f64,
    /// A back waist dart is stitched this far short of its upper end, in millimetres.
    pub back_point: f64,
    /// At least this much side seam is left above the side dart, in millimetres.
    pub above_side_dart: f64,
}

impl Default for Dress {
    fn default() -> Self {
        Self {
            neck_width_less: 0.0,
            neck_depth_more: 12.7,
            dart_share: 2.0 / 3.0,
            balanced: false,
            armhole_by_bust: true,
            front_dart_above_hip: 90.0,
            back_dart_above_hip: 50.0,
            upper_bust_above: 25.0,
            least_rise: 30.0,
            front_point: 25.0,
            back_point: 12.0,
            above_side_dart: 20.0,
        }
    }
}

/// What the back wants of the front.
struct Front {
    piece: Piece,
    /// Sewn side from underarm to waist.
    sewn_side: f64,
    /// Side from waist to hip.
    side_below: f64,
    /// Lean of the side above the bust line, radians, outwards positive.
    flare: f64,
    bust_below_underarm: f64,
    back_bust: StepLine,
    /// The waist darts' shares of what the waist is narrower, front and back.
    dart_shares: (f64, f64),
}

pub(super) fn drawn(r: &DirectReadings, m: &Direct, d: &Dress, style: Style) -> Result<Draft, Clash> {
    steep_shoulder(r, style)?;
    let m = &Direct { neck_width_less: d.neck_width_less, neck_depth_more: d.neck_depth_more, ..*m };
    let mut notes = Vec::new();
    let mut front_sheet = Sheet::new(PieceKind::DRESS_FRONT);
    let front = front::draft(r, m, d, style, &mut front_sheet, &mut notes)?;
    notes.extend(shoulder_width_note(r, front.piece.tip(), style));
    let mut back_sheet = Sheet::new(PieceKind::DRESS_BACK);
    let (back, to_level) = back::draft(r, m, d, &front, style, &mut back_sheet, &mut notes)?;
    notes.extend(armhole_note(r, &front.piece, &back, style));
    let steps = front_sheet.steps.into_iter().chain(back_sheet.moved(to_level)).collect();
    Ok(Draft { pattern: Pattern::new(vec![front.piece, back]), steps, notes })
}
