//! Flat patterns: what a piece is, how it is cut, moved and trued, measured and checked.
//!
//! Outlines are net (stitching line); allowance is added on output. Nothing here knows how a block
//! is drafted or why an alteration is wanted.

mod allowance;
mod around;
mod band;
mod check;
mod cut;
mod cut_across;
mod cut_line;
mod drawing;
mod facing;
mod girths;
mod grain;
mod half;
mod hang;
mod joining;
mod measure;
mod names;
mod piece;
mod second_dart;
mod shoulder;
mod skirt_half;
mod slash;
mod stitching;
mod truing;
mod waist_seam;
mod walk;
mod walk_frames;

pub use allowance::Allowances;
pub(crate) use around::quarters;
pub(crate) use band::{Grain, Stand, Straight};
pub use check::{
    CAP_PLAY, Check, CheckCode, Fault, KINK_LIMIT, LabelFacts, WAIST_DART_LIMIT, check_cut_lines,
    check_labels, check_pattern, too_wide_for_one,
};
pub(crate) use cut::{Cut, closing, turned};
pub(crate) use cut_across::cut_across;
pub use cut_line::cut_line;
pub use drawing::{DartDrawing, LevelDrawing, PieceDrawing, SeamDrawing, draw_pattern, draw_piece};
pub(crate) use facing::{NoFacing, facing, facing_in_one};
pub use girths::GirthsOff;
pub(crate) use grain::upright_at;
pub use half::Half;
pub use hang::SideHang;
pub use joining::{BETWEEN_PINS, Joining, joinings};
pub use measure::{PatternMeasure, PatternMeasures, across_level, angles, measure};
pub use names::{Covers, Garment, GarmentPart, Share, WornSide};
pub use piece::{
    Dart, DartPlace, Edge, Gather, Level, LevelName, NeckBase, Notch, Pattern, Piece, PieceKind, Pleat, Seam,
    SleeveRule, TwoPointedDart,
};
pub(crate) use second_dart::{DARTS_APART, second_two_pointed_dart};
pub use shoulder::{
    redraw_shoulder, redraw_shoulder_from, shoulder_direction, straighten_shoulder, true_neck_side, true_tip,
};
pub(crate) use skirt_half::{SkirtDart, SkirtHalf};
pub(crate) use slash::dart_across;
pub use slash::{Join, Motion, Part, Place, Region, Slash, SlashError};
pub use stitching::{DartStitching, DartsByHand, marked_by_hand};
pub use truing::{
    BackOff, Trued, back_off_points, back_off_points_by, capped_outline, keep_side_length, redraw_dart,
    true_closed_side, true_kinks, true_underarm, true_waist, true_waist_to,
};
pub(crate) use waist_seam::{Redrawn, WaistSeam};
pub use walk::{SeamWalk, WalkedNotch, walk};
pub use walk_frames::{Walk, WalkFrame, walks};
