//! Drafting methods as a house keeps them: every constant by name, with unit, default, limits and reason.

use serde::{Deserialize, Serialize};

use super::{
    Direct, DirectEase, Draft, DraftError, Dress, Proportional, Skirt, SleeveMethod, draft_direct,
    draft_dress, draft_proportional, draft_skirt, with_sleeve,
};
use crate::body::Body;
use crate::ease::EaseSet;
use crate::pattern::{Garment, GirthsOff, PatternMeasure, measure};
use crate::{INCH, Style, Unit};

/// Which construction.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum MethodKind {
    /// Bodice by the direct method.
    #[default]
    Direct,
    /// Dress block to the hip by the direct method.
    Dress,
    /// Bodice by the proportional method.
    Proportional,
    /// Straight skirt from the waist down.
    Skirt,
}

impl MethodKind {
    /// Every kind, in the order of a list.
    pub const ALL: [Self; 4] = [Self::Direct, Self::Dress, Self::Proportional, Self::Skirt];

    /// The trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Direct => "Bodice, direct",
            Self::Dress => "Dress to the hip, direct",
            Self::Proportional => "Bodice, proportional",
            Self::Skirt => "Straight skirt",
        }
    }

    /// What it trusts.
    pub const fn trusts(self) -> &'static str {
        match self {
            Self::Direct => {
                "Measures everything and trusts few proportions: best for figures far from the table."
            }
            Self::Dress => "As the direct bodice, without a waist seam: its waist darts have two points.",
            Self::Skirt => {
                "Waist, hip, waist to hip and length as they are measured; what the waist is narrower goes into side seams \
                 and darts."
            }
            Self::Proportional => {
                "Bust, waist and back length only; everything else in published proportion: a first block, a nest, \
                 or a client who sent three figures."
            }
        }
    }

    /// The readings it cannot do without.
    pub fn needs(self) -> Vec<&'static str> {
        use super::DirectReadings as D;
        match self {
            Self::Direct => D::NEEDED.to_vec(),
            Self::Dress => [&D::NEEDED[..], &D::NEEDED_BELOW[..]].concat(),
            Self::Proportional => Proportional::NEEDED.to_vec(),
            Self::Skirt => Skirt::NEEDED.to_vec(),
        }
    }

    /// Wishes it reads besides, where they are known: a length is where she wishes it to end.
    pub const fn wishes(self) -> &'static [&'static str] {
        match self {
            Self::Skirt => &["skirt_length"],
            Self::Direct | Self::Dress | Self::Proportional => &[],
        }
    }

    /// What it drafts.
    pub const fn garment(self) -> Garment {
        match self {
            Self::Direct | Self::Dress | Self::Proportional => Garment::Bodice,
            Self::Skirt => Garment::Skirt,
        }
    }

    /// The usual draft of a garment; none of trousers.
    pub const fn usual_of(garment: Garment) -> Option<Self> {
        match garment {
            Garment::Bodice => Some(Self::Direct),
            Garment::Skirt => Some(Self::Skirt),
            Garment::Trousers => None,
        }
    }

    /// Whether a sleeve can be drafted into it.
    pub const fn has_armhole(self) -> bool {
        matches!(self.garment(), Garment::Bodice)
    }
}

/// A drafting method with all its constants.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Method {
    /// Which construction.
    pub kind: MethodKind,
    /// Whether a sleeve is drafted into the finished armhole.
    pub with_sleeve: bool,
    /// Constants of the direct method.
    pub direct: Direct,
    /// What the dress adds.
    pub dress: Dress,
    /// Constants of the proportional method.
    pub proportional: Proportional,
    /// Constants of the sleeve.
    pub sleeve: SleeveMethod,
    /// Constants of the skirt.
    pub skirt: Skirt,
}

/// What a constant is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum ParameterUnit {
    /// A length, in millimetres.
    Mm,
    /// An angle.
    Degrees,
    /// A bare number or a share.
    Number,
    /// Off (0) or on (1).
    Switch,
}

/// A constant of a method.
#[derive(Clone, Copy, Debug)]
pub struct Parameter {
    /// Stable code.
    pub code: &'static str,
    /// Its name.
    pub name: &'static str,
    /// What it is.
    pub unit: ParameterUnit,
    /// Least value.
    pub least: f64,
    /// Greatest value.
    pub most: f64,
    /// Why it stands where it stands; lengths in it are millimetres.
    pub reason: &'static str,
    /// What a house of inches has instead of the figure in millimetres; none where the figure is published or no
    /// length.
    inches: Option<f64>,
    part: Part,
    get: fn(&Method) -> f64,
    set: fn(&mut Method, f64),
}

impl Method {
    /// Whether every constant of a method from outside lies within its limits.
    ///
    /// # Errors
    ///
    /// A sentence that names the constant and its limits.
    pub fn validate(&self) -> Result<(), String> {
        for row in PARAMETERS {
            let value = row.of(self);
            if !(row.least..=row.most).contains(&value) {
                let unit = if row.unit == ParameterUnit::Mm { " mm" } else { "" };
                return Err(format!("{} must lie between {} and {}{unit}", row.name, row.least, row.most));
            }
        }
        Ok(())
    }
}

impl Method {
    /// The method as houses with this unit have it: every constant its natural figure. Published figures are the same
    /// everywhere.
    pub fn usual(unit: Unit) -> Self {
        let mut method = Self::default();
        for row in PARAMETERS {
            if let (Unit::Inch, Some(inches)) = (unit, row.inches) {
                (row.set)(&mut method, inches * INCH);
            }
        }
        method
    }
}

impl Parameter {
    /// Its value in a method.
    pub fn of(&self, method: &Method) -> f64 {
        (self.get)(method)
    }
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Part {
    /// Bodice and dress by the direct method.
    Direct,
    /// The bodice alone.
    Bodice,
    Dress,
    Proportional,
    Sleeve,
    Skirt,
}

macro_rules! row {
    ($part:ident, $code:literal, $name:literal, Switch, $reason:literal, $($field:ident).+) => {
        Parameter {
            code: $code, name: $name, unit: ParameterUnit::Switch, least: 0.0, most: 1.0, reason: $reason,
            inches: None, part: Part::$part,
            get: |method| f64::from(u8::from(method.$($field).+)),
            set: |method, value| method.$($field).+ = value >= 0.5,
        }
    };
    ($part:ident, $code:literal, $name:literal, $unit:ident, $least:literal, $most:literal, $reason:literal, $($field:ident).+
     $(, inches $inches:literal)?) => {
        Parameter {
            code: $code, name: $name, unit: ParameterUnit::$unit, least: $least, most: $most, reason: $reason,
            inches: [$(Some($inches),)? None][0], part: Part::$part,
            get: |method| method.$($field).+,
            set: |method, value| method.$($field).+ = value,
        }
    };
}

/// Every constant of every method. Where no source is named it is common practice, no source.
#[rustfmt::skip]
static PARAMETERS: &[Parameter] = &[
    row!(Direct, "front_share", "Front's share", Mm, 0.0, 30.0, "The front is wider than the back by twice this, so that the side seam hangs under the arm.", direct.front_share, inches 0.375),
    row!(Bodice, "neck_width_less", "Neck width, less", Mm, -10.0, 20.0, "A fifth of the neck is a little wide for the pattern: a neckline is cut higher than it is worn.", direct.neck_width_less, inches 0.125),
    row!(Bodice, "neck_depth_more", "Front neck, deeper than wide", Mm, 0.0, 30.0, "The pit lies lower than the neck is wide.", direct.neck_depth_more, inches 0.375),
    row!(Bodice, "underarm_share", "Underarm, share of the bust depth", Number, 0.6, 0.9, "Three quarters of the way to the bust line leaves room to lift the arm.", direct.underarm_share),
    row!(Bodice, "dart_inside", "First dart leg, inside the pivot", Mm, 0.0, 25.0, "The dart leans a little to the side, as the body does.", direct.dart_inside, inches 0.375),
    row!(Bodice, "one_dart", "Keep one front dart", Switch, "A one-dart block is a start for moving darts; its dart is usually too wide to sew.", direct.one_dart),
    row!(Bodice, "waist_dart_keeps", "Front waist dart keeps", Mm, 10.0, 63.5, "38 mm sews flat; the rest goes to a side dart.", direct.waist_dart_keeps, inches 1.5),
    row!(Direct, "cup_to_front", "Give the cup to the front", Switch, "On a full cup the back is then left alone; the same at a B cup.", direct.cup_to_front),
    row!(Bodice, "balanced", "The side dart balances the seams", Switch, "It takes the flare of front and back, so that both side seams lean alike; the waist dart keeps the rest, 12 to 64 mm.", direct.balanced),
    row!(Direct, "slope_by_width", "Shoulder placed by its width where no slope was taken", Switch, "A shoulder width read a little otherwise moves the slope by degrees: the draft says by how many, and asks for the slope before cutting.", direct.slope_by_width),
    row!(Direct, "shoulder_dart_depth", "Shoulder dart, depth", Mm, 40.0, 130.0, "It ends where the shoulder blade begins.", direct.shoulder_dart_depth, inches 3.375),
    row!(Direct, "shoulder_dart_mouth", "Shoulder dart, mouth", Mm, 0.0, 19.0, "12.7 mm shapes an ordinary blade; above 19 mm doubt it.", direct.shoulder_dart_mouth, inches 0.5),
    row!(Direct, "back_pinch", "Pinch at the back armhole instead", Switch, "The cloth for the shoulder blade is taken out at the armhole, with a mouth as wide as the shoulder dart's: the shoulder stays whole.", direct.back_pinch),
    row!(Direct, "back_flare_limit", "Flare the back takes up", Degrees, 0.0, 15.0, "The back does not inherit the cup's flare beyond what a side seam bears.", direct.back_flare_limit),
    row!(Direct, "below_armpit", "Underarm below the tape", Mm, 10.0, 40.0, "A tape lies in the armpits; a sleeve wants 25 mm more.", direct.below_armpit, inches 1.0),
    row!(Direct, "least_dart", "Narrowest dart", Mm, 2.0, 15.0, "Less is not worth sewing.", direct.least_dart, inches 0.25),
    row!(Direct, "neck_divisor", "Neck width, neck divided by", Number, 4.0, 7.0, "A fifth of the neck is about the width of its base.", direct.neck_divisor),
    row!(Direct, "middle_cup", "Cup the back is drafted for", Mm, 0.0, 120.0, "51 mm, a B cup: what the option to give the cup to the front leaves to the back.", direct.middle_cup, inches 2.0),
    row!(Direct, "usual_back_dart", "Widest usual back dart", Mm, 20.0, 63.5, "Above 38 mm a second dart beside it lies flatter: the draft says so.", direct.usual_back_dart, inches 1.5),
    row!(Direct, "second_back_dart", "Second back waist dart", Switch, "Where the back waist dart is wider than usual it is drafted as two, each with about half of it, the outer one lower.", direct.second_back_dart),
    row!(Direct, "estimated_slope", "Shoulder slope where not measured", Degrees, 10.0, 30.0, "A middle shoulder; a draft with it is to look at, not to cut.", direct.estimated_slope),
    row!(Direct, "notch_above_waist", "Side notch above the waist", Mm, 30.0, 120.0, "Where two hands hold the seam together.", direct.notch_above_waist, inches 2.75),
    row!(Direct, "armhole_notch", "Armhole notch, share from the underarm", Number, 0.2, 0.5, "Below it a sleeve is set in without ease.", direct.armhole_notch),
    row!(Dress, "dress_neck_width_less", "Neck width, less", Mm, -10.0, 20.0, "A dress's neck is as wide as a fifth of hers.", dress.neck_width_less, inches 0.0),
    row!(Dress, "dress_neck_depth_more", "Front neck, deeper than wide", Mm, 0.0, 30.0, "The pit lies 12.7 mm lower than the neck is wide.", dress.neck_depth_more, inches 0.5),
    row!(Dress, "dart_share", "Waist dart's share", Number, 0.3, 1.0, "Two thirds of what the waist is narrower goes into the dart, a third to the side.", dress.dart_share),
    row!(Dress, "dress_balanced", "The shares of the side balance the seams", Switch, "Front and back side seam take the waist in by the height each has for it, so that both lean alike.", dress.balanced),
    row!(Dress, "armhole_by_bust", "Front armhole as in the bodice", Switch, "Three quarters of the bust depth, so that one woman's bodice and dress agree; otherwise level with the back's armpit.", dress.armhole_by_bust),
    row!(Dress, "front_dart_above_hip", "Front dart ends above the hip", Mm, 0.0, 150.0, "It ends on the belly, 80 to 100 mm above the hip line; at 0 it ends on that line.", dress.front_dart_above_hip, inches 3.5),
    row!(Dress, "back_dart_above_hip", "Back dart ends above the hip", Mm, 0.0, 120.0, "It ends where the seat is fullest; at 0 on the hip line.", dress.back_dart_above_hip, inches 2.0),
    row!(Dress, "upper_bust_above", "Upper bust above the underarm", Mm, 0.0, 60.0, "The upper bust is taped above the armpits' level of the pattern.", dress.upper_bust_above, inches 1.0),
    row!(Dress, "least_rise", "Least rise from there to the bust line", Mm, 10.0, 80.0, "Nearer levels would lean the side seam wildly.", dress.least_rise, inches 1.25),
    row!(Dress, "front_point", "Front dart backed off", Mm, 0.0, 50.0, "It stops short of the bust point.", dress.front_point, inches 1.0),
    row!(Dress, "back_point", "Back dart backed off", Mm, 0.0, 40.0, "It stops short of the shoulder blade.", dress.back_point, inches 0.5),
    row!(Dress, "above_side_dart", "Side seam left above the side dart", Mm, 5.0, 60.0, "Less would leave nothing to hold the armhole by.", dress.above_side_dart, inches 0.75),
    row!(Proportional, "bust_ease", "Ease at the bust", Mm, 40.0, 240.0, "Published: 12 cm in all.", proportional.bust_ease),
    row!(Proportional, "waist_ease", "Ease at the waist", Mm, 0.0, 160.0, "Published: 6 cm in all.", proportional.waist_ease),
    row!(Proportional, "bust_line_of_bust", "Bust line, bust divided by", Number, 6.0, 24.0, "Published proportion.", proportional.bust_line_of_bust),
    row!(Proportional, "bust_line_more", "Bust line, more", Mm, 60.0, 220.0, "Published proportion.", proportional.bust_line_more),
    row!(Proportional, "back_width_of_bust", "Back width, bust divided by", Number, 4.0, 16.0, "Published proportion.", proportional.back_width_of_bust),
    row!(Proportional, "back_width_more", "Back width, more", Mm, 30.0, 130.0, "Published proportion.", proportional.back_width_more),
    row!(Proportional, "blade_level", "Shoulder blade level", Mm, 50.0, 120.0, "Published: 8 cm below the nape.", proportional.blade_level),
    row!(Proportional, "front_rise_of_bust", "Front above the bust line, bust divided by", Number, 3.0, 10.0, "Published proportion.", proportional.front_rise_of_bust),
    row!(Proportional, "front_rise_more", "Front above the bust line, more", Mm, 40.0, 140.0, "Published proportion.", proportional.front_rise_more),
    row!(Proportional, "chest_of_bust", "Chest width, bust divided by", Number, 4.0, 16.0, "Published proportion.", proportional.chest_of_bust),
    row!(Proportional, "chest_more", "Chest width, more", Mm, 20.0, 120.0, "Published proportion.", proportional.chest_more),
    row!(Proportional, "bust_point_out", "Bust point, towards the side", Mm, 0.0, 30.0, "Published: 0.7 cm.", proportional.bust_point_out),
    row!(Proportional, "dart_foot_of_bust", "Bust dart beyond the chest line, bust divided by", Number, 16.0, 64.0, "Published proportion.", proportional.dart_foot_of_bust),
    row!(Proportional, "neck_of_bust", "Neck width, bust divided by", Number, 12.0, 48.0, "Published proportion.", proportional.neck_of_bust),
    row!(Proportional, "neck_more", "Neck width, more", Mm, 10.0, 70.0, "Published proportion.", proportional.neck_more),
    row!(Proportional, "neck_depth_over", "Front neck, deeper than wide", Mm, 0.0, 30.0, "Published: 0.5 cm.", proportional.neck_depth_over),
    row!(Proportional, "back_neck_wider", "Back neck, wider than the front", Mm, 0.0, 20.0, "Published: 0.2 cm.", proportional.back_neck_wider),
    row!(Proportional, "front_slope", "Front shoulder slope", Degrees, 10.0, 32.0, "Published: 22 degrees.", proportional.front_slope),
    row!(Proportional, "back_slope", "Back shoulder slope", Degrees, 8.0, 28.0, "Published: 18 degrees.", proportional.back_slope),
    row!(Proportional, "shoulder_beyond", "Shoulder beyond the chest line", Mm, 0.0, 45.0, "Published: 1.8 cm.", proportional.shoulder_beyond),
    row!(Proportional, "bust_dart_of_bust", "Bust dart, degrees a centimetre of bust", Number, 0.1, 0.4, "Published: a quarter of a degree.", proportional.bust_dart_of_bust),
    row!(Proportional, "bust_dart_less", "Bust dart, less", Degrees, 0.0, 8.0, "Published: 2.5 degrees.", proportional.bust_dart_less),
    row!(Proportional, "shoulder_dart_of_bust", "Shoulder dart, bust divided by", Number, 16.0, 64.0, "Published proportion.", proportional.shoulder_dart_of_bust),
    row!(Proportional, "shoulder_dart_less", "Shoulder dart, less", Mm, 0.0, 20.0, "Published: 0.8 cm.", proportional.shoulder_dart_less),
    row!(Proportional, "share_a", "Waist dart under the bust point, share", Number, 0.0, 0.4, "Published: 14 of 100.", proportional.share_a),
    row!(Proportional, "share_b", "Outer front waist dart, share", Number, 0.0, 0.4, "Published: 15 of 100.", proportional.share_b),
    row!(Proportional, "share_c", "Side seam, share", Number, 0.0, 0.4, "Published: 11 of 100, half to each side.", proportional.share_c),
    row!(Proportional, "share_d", "Outer back waist dart, share", Number, 0.0, 0.6, "Published: 35 of 100.", proportional.share_d),
    row!(Proportional, "share_e", "Inner back waist dart, share", Number, 0.0, 0.4, "Published: 18 of 100.", proportional.share_e),
    row!(Proportional, "blade_point_out", "Shoulder dart's point, towards the side", Mm, 0.0, 25.0, "Published: 1 cm from the middle of the back width.", proportional.blade_point_out),
    row!(Proportional, "g_lower", "Armhole level, lower than half-way", Mm, 0.0, 15.0, "Published: 0.5 cm.", proportional.g_lower),
    row!(Proportional, "front_guide_more", "Front armhole guide, more", Mm, 0.0, 20.0, "Published: a sixth of the armhole's width and 0.5 cm.", proportional.front_guide_more),
    row!(Proportional, "back_guide_more", "Back armhole guide, more", Mm, 0.0, 20.0, "Published: a sixth of the armhole's width and 0.8 cm.", proportional.back_guide_more),
    row!(Proportional, "shoulder_dart_out", "Shoulder dart, on towards the tip", Mm, 0.0, 40.0, "Published: 1.5 cm.", proportional.shoulder_dart_out),
    row!(Proportional, "dart_a_below", "Dart under the bust point ends below it", Mm, 0.0, 60.0, "Published: 2 to 3 cm.", proportional.dart_a_below),
    row!(Proportional, "dart_b_in", "Outer front dart, from the bust dart's foot", Mm, 0.0, 40.0, "Published: 1.5 cm towards the centre.", proportional.dart_b_in),
    row!(Proportional, "dart_b_short", "Outer front dart, short of the bust dart", Mm, 0.5, 15.0, "So that the cloth between the two darts holds.", proportional.dart_b_short, inches 0.125),
    row!(Proportional, "dart_d_in", "Outer back dart, from the back width line", Mm, 0.0, 30.0, "Published: 1 cm towards the centre.", proportional.dart_d_in),
    row!(Proportional, "dart_e_in", "Inner back dart, from the shoulder dart's point", Mm, 0.0, 30.0, "Published: 0.5 cm towards the centre.", proportional.dart_e_in),
    row!(Proportional, "dart_e_above", "Inner back dart ends above the bust line", Mm, 0.0, 60.0, "Published: 2 cm.", proportional.dart_e_above),
    row!(Proportional, "proportional_notch_above_waist", "Side notch above the waist", Mm, 30.0, 120.0, "Where two hands hold the seam together.", proportional.notch_above_waist, inches 2.75),
    row!(Proportional, "proportional_armhole_notch", "Armhole notch, share from the underarm", Number, 0.2, 0.5, "Below it a sleeve is set in without ease.", proportional.armhole_notch),
    row!(Sleeve, "hem_opens", "The hem opens", Switch, "A slit at the wrist: the hem then fits the wrist instead of the closed hand.", sleeve.hem_opens),
    row!(Sleeve, "cap_ease", "Cap ease", Mm, -20.0, 45.0, "Woven 20 to 38 mm, a shirt up to 13 mm, stretch none or less.", sleeve.cap_ease, inches 1.125),
    row!(Sleeve, "cap_ease_least", "Cap ease, least", Mm, -40.0, 40.0, "Below it the cap pulls.", sleeve.cap_ease_least, inches 0.75),
    row!(Sleeve, "cap_ease_most", "Cap ease, most", Mm, 0.0, 60.0, "Above it the cap puckers.", sleeve.cap_ease_most, inches 1.5),
    row!(Sleeve, "back_share", "Back's share of the cap ease", Number, 0.3, 0.7, "The arm moves forward: the back takes a little more.", sleeve.back_share),
    row!(Sleeve, "cap_least", "Cap height, least share of the armhole's depth", Number, 0.4, 0.8, "A lower cap lifts the arm and drags when it hangs.", sleeve.cap_least),
    row!(Sleeve, "cap_most", "Cap height, greatest share of the armhole's depth", Number, 0.6, 1.0, "A higher cap binds the upper arm.", sleeve.cap_most),
    row!(Sleeve, "bulge", "Roundness of the cap", Degrees, 4.0, 24.0, "How much the cap leaves the straight line from crown to underarm.", sleeve.bulge),
    row!(Sleeve, "hem_lean", "Hem leans forward", Mm, 0.0, 30.0, "A hanging arm bends forward; the back seam is eased over the elbow.", sleeve.hem_lean, inches 0.5),
    row!(Sleeve, "hem_ease", "Hem over hand or wrist", Mm, 0.0, 80.0, "At least 10 mm over the closed hand, so that it goes through a closed hem.", sleeve.hem_ease, inches 1.25),
    row!(Sleeve, "elbow_share", "Elbow, share of the underarm seam", Number, 0.3, 0.6, "A little above the middle.", sleeve.elbow_share),
    row!(Skirt, "skirt_front_share", "Front's share", Mm, 0.0, 30.0, "As the bodice's, so that the side seams meet; 0 for a skirt that is worn alone.", skirt.front_share, inches 0.375),
    row!(Skirt, "skirt_side_divisor", "Each side edge, part of what is taken in", Number, 2.0, 20.0, "A sixth at each edge: the side curves over the hip bone, darts shape belly and seat.", skirt.side_divisor),
    row!(Skirt, "skirt_side_most", "Each side edge, at most", Mm, 5.0, 60.0, "More would stand out over the hip bone.", skirt.side_most, inches 1.25),
    row!(Skirt, "skirt_front_dart_share", "Front's share of the darts", Number, 0.0, 0.7, "The seat wants more shape than the belly.", skirt.front_dart_share),
    row!(Skirt, "skirt_least_dart", "Narrowest dart", Mm, 2.0, 15.0, "Less is not worth sewing: it goes into the side.", skirt.least_dart, inches 0.25),
    row!(Skirt, "skirt_one_front_dart", "One front dart up to", Mm, 10.0, 60.0, "Above it two lie flatter.", skirt.one_front_dart, inches 1.0),
    row!(Skirt, "skirt_one_back_dart", "One back dart up to", Mm, 10.0, 60.0, "Above it two lie flatter.", skirt.one_back_dart, inches 1.25),
    row!(Skirt, "skirt_front_dart_above_hip", "Front darts end above the hip", Mm, 40.0, 150.0, "On the belly, which lies higher than the seat.", skirt.front_dart_above_hip, inches 3.5),
    row!(Skirt, "skirt_back_dart_above_hip", "Back dart ends above the hip", Mm, 20.0, 120.0, "Where the seat is fullest.", skirt.back_dart_above_hip, inches 2.0),
    row!(Skirt, "skirt_outer_back_dart_above_hip", "Outer back dart ends above the hip", Mm, 20.0, 130.0, "The seat lies higher towards the side.", skirt.outer_back_dart_above_hip, inches 2.5),
    row!(Skirt, "skirt_side_raised", "Waist raised at the side", Mm, 0.0, 30.0, "Over the hip bone the way down is longer than at the centre.", skirt.side_raised, inches 0.5),
    row!(Skirt, "skirt_back_lowered", "Waist lowered at the centre back", Mm, 0.0, 25.0, "The back is hollow there.", skirt.back_lowered, inches 0.25),
    row!(Skirt, "skirt_usual_length", "Length where none is wished", Mm, 380.0, 1250.0, "About to the knee.", skirt.usual_length, inches 24.0),
];

/// A constant by its code.
pub fn parameter(code: &str) -> Option<&'static Parameter> {
    PARAMETERS.iter().find(|row| row.code == code)
}

/// The constants that count for a construction.
pub fn parameters(kind: MethodKind, with_sleeve: bool) -> impl Iterator<Item = &'static Parameter> {
    PARAMETERS.iter().filter(move |row| match row.part {
        Part::Direct => matches!(kind, MethodKind::Direct | MethodKind::Dress),
        Part::Bodice => kind == MethodKind::Direct,
        Part::Dress => kind == MethodKind::Dress,
        Part::Proportional => kind == MethodKind::Proportional,
        Part::Sleeve => with_sleeve && kind.has_armhole(),
        Part::Skirt => kind == MethodKind::Skirt,
    })
}

/// A constant that cannot be set.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum ParameterError {
    /// No such constant.
    #[error("no constant of a method is called \u{201c}{0}\u{201d}")]
    Unknown(String),
    /// Outside its limits.
    #[error("{name} must lie between {least} and {most}")]
    Outside {
        /// Its name.
        name: &'static str,
        /// The least, in the parameter's unit.
        least: f64,
        /// The most.
        most: f64,
    },
}

impl Method {
    /// The same method with a constant set, in millimetres, degrees or as a bare number.
    ///
    /// # Errors
    ///
    /// [`ParameterError`] where there is no such constant or the value lies outside its limits.
    pub fn with(mut self, code: &str, value: f64) -> Result<Self, ParameterError> {
        let row = parameter(code).ok_or_else(|| ParameterError::Unknown(code.to_owned()))?;
        if !(row.least..=row.most).contains(&value) {
            return Err(ParameterError::Outside { name: row.name, least: row.least, most: row.most });
        }
        (row.set)(&mut self, value);
        Ok(self)
    }

    /// The readings it cannot do without.
    pub fn needs(&self) -> Vec<&'static str> {
        let sleeve = if self.has_sleeve() { self.sleeve.needs().to_vec() } else { Vec::new() };
        [self.kind.needs(), sleeve].concat()
    }

    /// Whether a sleeve is drafted: it is wanted, and there is an armhole for it.
    fn has_sleeve(&self) -> bool {
        self.with_sleeve && self.kind.has_armhole()
    }
}

impl Method {
    /// The method with the ease of a set for a body: bodice, dress, sleeve and skirt alike.
    #[must_use]
    pub fn with_ease(mut self, set: &EaseSet, body: &Body) -> Self {
        self.direct.ease = DirectEase::of(set, body);
        let along_the_arm = set.along_the_arm();
        self.sleeve.upper_arm_ease = along_the_arm.upper_arm;
        self.sleeve.elbow_ease = Some(along_the_arm.elbow);
        self.skirt = self.skirt.with_ease(set, body);
        self
    }
}

impl Method {
    /// What a girth of the draft is to be, sewn and all round, in millimetres: the body's and the ease. None where the
    /// draft shapes it otherwise: darts of the proportional bodice reach above its bust line.
    fn asks(&self, body: &Body, figure: PatternMeasure) -> Option<f64> {
        let is_direct = matches!(self.kind, MethodKind::Direct | MethodKind::Dress);
        let (code, ease) = match figure {
            PatternMeasure::Waist if self.kind == MethodKind::Skirt => ("waist_girth", self.skirt.waist_ease),
            PatternMeasure::Hip if self.kind == MethodKind::Skirt => ("hip_girth", self.skirt.hip_ease),
            _ if self.kind == MethodKind::Skirt => return None,
            PatternMeasure::Bust if is_direct => ("bust_girth", self.direct.ease.bust),
            PatternMeasure::Waist if is_direct => ("waist_girth", self.direct.ease.waist),
            PatternMeasure::Hip if is_direct => ("hip_girth", self.direct.ease.hip),
            PatternMeasure::Waist => ("waist_girth", self.proportional.waist_ease),
            _ => return None,
        };
        Some(body.get(code)? + ease)
    }
}

/// Drafts a block by a method. `style` is how refusals write their figures.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft(body: &Body, method: &Method, style: Style) -> Result<Draft, DraftError> {
    super::missing(body, method.needs().iter())?;
    let drafted = match method.kind {
        MethodKind::Direct => draft_direct(body, &method.direct, style),
        MethodKind::Dress => draft_dress(body, &method.direct, &method.dress, style),
        MethodKind::Proportional => draft_proportional(body, &method.proportional, style),
        MethodKind::Skirt => draft_skirt(body, &method.skirt, style),
    }?;
    let mut draft =
        if method.has_sleeve() { with_sleeve(drafted, body, &method.sleeve, style)? } else { drafted };
    let guessed =
        draft.notes.iter().filter(|note| note.estimated).filter_map(|note| note.measurement.clone());
    draft.pattern.estimated = guessed.collect();
    draft.pattern = draft.pattern.as_drafted();
    let drafted = measure(&draft.pattern).get(PatternMeasure::Bust);
    draft.pattern.bust_ease = drafted.zip(body.get("bust_girth")).map(|(drafted, girth)| drafted - girth);
    draft.pattern.girths_off = Some(GirthsOff::of(&draft.pattern, |figure| method.asks(body, figure)));
    Ok(draft)
}
