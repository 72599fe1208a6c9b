//! Alterations: one file each, one registry, and the recipe that strings them together.
//!
//! An alteration states its parameters, refuses what cannot be with the limit, builds slashes and
//! reshapes, and tells the stages for shears and paper. Adding one is a file and a line in
//! [`registry`]; the API, the command line and the screens are built from there.
//!
//! What holds for all of them stands once, in [`apply`]: amounts are checked, an amount of nothing is
//! the same pattern, one side alone makes left and right pieces, and what other pieces must follow is
//! measured on the pattern before and after.

mod amounts;
mod apply;
mod arm;
mod armhole;
mod back_pinch;
mod back_width;
mod below_waist_length;
mod between;
mod bias_strips;
mod biceps_width;
mod cap_height;
mod carrying_over;
mod collar_stand;
mod cuffs;
mod curve_dart;
mod cut_in_one;
mod cut_in_one_parts;
mod dart_point;
mod darts_in_the_way;
mod elbow_dart;
mod error;
mod facings;
mod fold;
mod folded_across;
mod follow_up;
mod forward_shoulder;
mod front_balance;
mod front_width;
mod full_bust;
mod full_bust_below_waist;
mod gape;
mod gaping_armhole;
mod gaping_neckline;
mod gather_dart;
mod half_cap;
mod hem_length;
mod high_hip;
mod hip_curve;
mod joined_skirt;
mod joined_skirt_parts;
mod keeps;
mod layer;
mod length;
mod move_dart;
mod narrow_shoulder;
mod narrow_shoulder_slash;
mod neck;
mod neck_forward;
mod neckline;
mod neckline_dart;
mod neckline_shape;
mod off_shoulder_band;
mod pivot;
mod place_names;
mod pleat;
mod preview;
mod princess;
mod recipe;
mod rounded_back;
mod set_aside;
mod sewn_dart;
mod sewn_on;
mod shoulder_dart;
mod shoulder_length;
mod shoulder_slope;
mod side_seam_place;
mod side_seams;
mod skirt_belly;
mod skirt_dart;
mod skirt_length;
mod skirt_rise;
mod skirt_seat;
mod skirt_side_seams;
mod skirt_waist;
mod sleeve;
mod sleeve_shape;
mod sleeve_turn;
mod sleeve_width;
mod split_dart;
mod strapless_edge;
mod strapless_parts;
mod style_line;
mod sway_back;
mod true_up;
mod two_circles;
mod under_bust_parts;
mod under_bust_seam;
mod under_bust_spread;
mod underarm;
mod until_trued;
mod waistband;
mod ways;
mod work;

use crate::Style;
use crate::pattern::{Garment, Pattern, PatternMeasure, Seam};

pub(crate) use amounts::said;
pub use amounts::{Amounts, Args, Measured, MeasuredOn, Param, Setting, Way};
pub use apply::apply;
pub use carrying_over::{CarriedOver, CarriedStep, CarryOutcome, Source, carry_over};
pub use darts_in_the_way::{WorksAcross, suits};
pub use error::AlterError;
pub(crate) use hem_length::LEAST_SHAPED;
pub use keeps::Keeps;
pub use layer::Layer;
pub use place_names::PlaceName;
pub use preview::{
    AlterationView, AmountView, Broken, DecisionView, Expectation, FigureRow, MovedArea, Nearest, ParamView,
    Preview, StepState, StepView, WayView, alteration_views, amount_views, choices, decisions,
    figures_beside, preview, sums,
};
pub use recipe::{
    AlteredFor, Contribution, Decided, Made, MadeStep, Recipe, Step, Taken, make, place_in_order,
};
pub use rounded_back::rounded_back_as_slashed;
pub use work::{Altered, DrawnPoint, FollowKind, FollowUp, Handle, Offer, Stage, StageDrawing, StageKind};

/// Every alteration that is built, layer by layer, in the order they are done in (handbook: `alterations.md`, section 5):
/// the one order of plan, cutting table and fitting.
pub fn registry() -> &'static [&'static dyn Alteration] {
    &[
        &length::Length,
        &front_balance::FrontBalance,
        &rounded_back::RoundedBack,
        &full_bust::FullBust,
        &shoulder_length::ShoulderLength,
        &narrow_shoulder::NarrowShoulder,
        &narrow_shoulder_slash::NarrowShoulderSlash,
        &shoulder_slope::ShoulderSlope,
        &forward_shoulder::ForwardShoulder,
        &back_width::BackWidth,
        &front_width::FrontWidth,
        &neck_forward::NeckForward,
        &neck::Neck,
        &side_seams::SideSeams,
        &side_seam_place::SideSeamPlace,
        &hip_curve::HipCurve,
        &underarm::Underarm,
        &gaping_armhole::GapingArmhole,
        &gaping_neckline::GapingNeckline,
        &sway_back::SwayBack,
        &below_waist_length::BELLY_LENGTH,
        &below_waist_length::SEAT_LENGTH,
        &skirt_rise::SKIRT_RISE,
        &high_hip::HIGH_HIP,
        &skirt_belly::SKIRT_BELLY,
        &skirt_seat::SKIRT_SEAT,
        &neckline::Neckline,
        &hem_length::HemLength,
        &skirt_length::SkirtLength,
        &sleeve_shape::SleeveShape,
        &move_dart::MoveDart,
        &split_dart::SplitDart,
        &gather_dart::GatherDart,
        &princess::PrincessLine,
        &strapless_edge::StraplessEdge,
        &cut_in_one::CutInOne,
        &under_bust_seam::UnderBustSeam,
        &biceps_width::BicepsWidth,
        &sleeve_width::SleeveWidth,
        &cap_height::CapHeight,
        &half_cap::HalfCap,
        &sleeve_turn::SleeveTurn,
        &elbow_dart::ElbowDart,
        &dart_point::DartPoint,
        &skirt_dart::SkirtDart,
        &true_up::TrueUp,
        &facings::Facings,
        &collar_stand::CollarStand,
        &joined_skirt::JoinedSkirt,
        &waistband::Waistband,
        &cuffs::Cuffs,
        &bias_strips::BiasStrips,
        &off_shoulder_band::OffShoulderBand,
        &pleat::PleatFromDart,
        &curve_dart::CurveDart,
    ]
}

/// The alteration of a code.
pub fn alteration(code: &str) -> Option<&'static dyn Alteration> {
    registry().iter().copied().find(|alteration| alteration.code() == code)
}

/// What an alteration says of itself.
#[derive(Clone, Copy, Debug)]
pub struct About {
    /// Stable code.
    pub code: &'static str,
    /// The trade's name.
    pub name: &'static str,
    /// When it is wanted, in a sentence.
    pub why: &'static str,
    /// What may be set. The first is the amount.
    pub params: &'static [Param],
    /// Seams at which it is looked for when a place on a piece is pointed at.
    pub seams: &'static [Seam],
    /// What the pattern must have, said where it is not for it.
    pub wants: &'static str,
    /// When it is done.
    pub layer: Layer,
}

/// One way to correct a pattern.
pub trait Alteration: Sync {
    /// What it says of itself.
    fn about(&self) -> &'static About;
    /// Stable code.
    fn code(&self) -> &'static str {
        self.about().code
    }
    /// The trade's name.
    fn name(&self) -> &'static str {
        self.about().name
    }
    /// When it is wanted, in a sentence.
    fn why(&self) -> &'static str {
        self.about().why
    }
    /// What may be set. The first is the amount.
    fn params(&self) -> &'static [Param] {
        self.about().params
    }
    /// Seams at which it is looked for.
    fn seams(&self) -> &'static [Seam] {
        self.about().seams
    }
    /// What the pattern must have.
    fn wants(&self) -> &'static str {
        self.about().wants
    }
    /// When it is done with these amounts.
    fn layer(&self, _: &Args<'_>) -> Layer {
        self.about().layer
    }
    /// Whether it comes after another step of its own kind that was decided later: behind is done after in front.
    fn comes_second(&self, _: &Args<'_>) -> bool {
        false
    }
    /// The style step that draws anew what it works on: what is decided where the recipe has that goes on from it, and is
    /// not lost under it.
    fn goes_on_from(&self, _: &Args<'_>) -> Option<&'static str> {
        None
    }
    /// Whether it looks at left and right at once, and is never done on one side: what goes all round the body.
    fn goes_all_round(&self) -> bool {
        false
    }
    /// The amounts of her left and of her right, where they ask for different things: each side is then altered by its own.
    fn apart(&self, _: &Args<'_>) -> Option<[Amounts; 2]> {
        None
    }
    /// What it is done to: of another garment nobody expects it.
    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice]
    }
    /// Whether it is built for the pieces of this pattern as they are.
    fn is_for(&self, pattern: &Pattern) -> bool;
    /// What stays the same, and what truing may cost it.
    fn keeps(&self, args: &Args<'_>) -> Keeps;
    /// What grows, and by how much in millimetres, for these amounts; nothing unless it says so.
    fn grows(&self, _: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        Vec::new()
    }
    /// Whether a parameter matters on this pattern.
    fn asks(&self, _: &Pattern, _: &str) -> bool {
        true
    }
    /// Whether doing the opposite amount brings the pattern back.
    fn is_reversible(&self) -> bool {
        false
    }
    /// Whether these amounts ask for nothing.
    fn is_nothing(&self, args: &Args<'_>) -> bool {
        args.amount() == 0.0
    }
    /// Whether a sleeve cap that no longer fits is altered along with it; otherwise that is offered.
    fn takes_the_cap_along(&self) -> bool {
        true
    }
    /// From this amount on it is drawn by itself, in millimetres; less is drawn as a share of that, since truing redraws more
    /// than a little amount moves. Nothing where every amount is. What such a share turns comes out shorter by a tenth of a
    /// millimetre at most, since its ends go straight, not round.
    fn drawn_from(&self) -> f64 {
        0.0
    }
    /// Whether it turns darts: the swing they give the side seam is then the pattern's own, and no fault of its balance.
    fn turns_darts(&self) -> bool {
        false
    }
    /// What it works across: darts that lie there are turned aside for it and back again.
    fn works_across(&self) -> WorksAcross {
        WorksAcross::Nothing
    }
    /// Where it makes the front armhole shorter, as a share of it from the tip; nowhere, or at its upper end.
    fn armhole_taken_in_at(&self, _: &Args<'_>) -> Option<f64> {
        None
    }
    /// Where the amount can be dragged while it is nothing.
    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle>;
    /// Alters a pattern it is for, by amounts that are in range and not nothing.
    ///
    /// # Errors
    ///
    /// [`AlterError`] with the limit; nothing is changed then.
    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError>;
}
