//! The trade's names for what a pattern is made of: seams, places of darts, levels, pieces.

use serde::{Deserialize, Serialize};

use crate::body::Side;

/// What a stretch of outline is sewn as.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Seam {
    /// Down the middle in front.
    CentreFront,
    /// Down the middle behind.
    CentreBack,
    /// Round the neck.
    Neckline,
    /// Neck side to shoulder point.
    Shoulder,
    /// Where the sleeve is set in.
    Armhole,
    /// Under the arm to the waist.
    Side,
    /// Round the waist.
    Waist,
    /// The lower edge of a block that goes on below the waist, and of a sleeve.
    Hem,
    /// The upper edge of a sleeve, set into the armhole.
    Cap,
    /// The long seam of a sleeve.
    UnderSleeve,
    /// From the armhole over the bust point to the waist, between two panels.
    Princess,
    /// Across front and back under the bust, between the upper part and the band.
    UnderBust,
    /// The upper edge of a front or back without shoulders.
    UpperEdge,
    /// From the shoulder point down the arm, of a sleeve in one with the body.
    Overarm,
    /// The edge of a sleeve in one with the body.
    SleeveEdge,
    /// The outer edge of a facing.
    FacingEdge,
    /// The outer edge of a band, a collar stand or a strip.
    BandEdge,
    /// An end of a band, a collar stand or a strip.
    BandEnd,
    /// A leg of a dart.
    DartLeg,
}

impl Seam {
    /// Every seam.
    pub const ALL: [Self; 19] = [
        Self::CentreFront,
        Self::CentreBack,
        Self::Neckline,
        Self::Shoulder,
        Self::Armhole,
        Self::Side,
        Self::Waist,
        Self::Hem,
        Self::Cap,
        Self::UnderSleeve,
        Self::Princess,
        Self::UnderBust,
        Self::UpperEdge,
        Self::Overarm,
        Self::SleeveEdge,
        Self::FacingEdge,
        Self::BandEdge,
        Self::BandEnd,
        Self::DartLeg,
    ];

    /// The trade's word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::CentreFront => "centre front",
            Self::CentreBack => "centre back",
            Self::Neckline => "neckline",
            Self::Shoulder => "shoulder",
            Self::Armhole => "armhole",
            Self::Side => "side seam",
            Self::Waist => "waist",
            Self::Hem => "hem",
            Self::Cap => "sleeve cap",
            Self::UnderSleeve => "sleeve seam",
            Self::Princess => "princess seam",
            Self::UnderBust => "seam under the bust",
            Self::UpperEdge => "upper edge",
            Self::Overarm => "overarm seam",
            Self::SleeveEdge => "sleeve edge",
            Self::FacingEdge => "outer edge of the facing",
            Self::BandEdge => "outer edge of the band",
            Self::BandEnd => "end of the band",
            Self::DartLeg => "dart leg",
        }
    }
}

/// A dart's place: where its mouth is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum DartPlace {
    /// Mouth on the waist.
    Waist,
    /// Mouth on the side seam.
    Side,
    /// Mouth on the shoulder.
    Shoulder,
    /// Mouth on the armhole.
    Armhole,
    /// Mouth on the waist, nearer to the side than the other one.
    WaistSide,
    /// Mouth on the neckline.
    Neckline,
    /// Mouth on the centre line.
    Centre,
    /// Mouth on the seam under the bust.
    UnderBust,
    /// Mouth on the seam under the bust, nearer to the side than the other one.
    UnderBustSide,
    /// Mouth on a sleeve's long seam, at the elbow.
    Elbow,
}

impl DartPlace {
    /// The trade's word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Waist => "waist dart",
            Self::Side => "side dart",
            Self::Shoulder => "shoulder dart",
            Self::Armhole => "armhole dart",
            Self::WaistSide => "outer waist dart",
            Self::Neckline => "neck dart",
            Self::Centre => "centre dart",
            Self::UnderBust => "dart under the bust",
            Self::UnderBustSide => "outer dart under the bust",
            Self::Elbow => "elbow dart",
        }
    }

    /// The seam the mouth lies on, of a centre dart that of a front.
    pub const fn seam(self) -> Seam {
        match self {
            Self::Waist | Self::WaistSide => Seam::Waist,
            Self::Side => Seam::Side,
            Self::Shoulder => Seam::Shoulder,
            Self::Armhole => Seam::Armhole,
            Self::Neckline => Seam::Neckline,
            Self::Centre => Seam::CentreFront,
            Self::UnderBust | Self::UnderBustSide => Seam::UnderBust,
            Self::Elbow => Seam::UnderSleeve,
        }
    }
}

/// Which level a line marks.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
#[non_exhaustive]
pub enum LevelName {
    /// Through the bust point, all round.
    Bust,
    /// At the waist of a piece that goes on below it.
    Waist,
    /// At the underarm of a sleeve.
    Biceps,
    /// At the elbow of a sleeve.
    Elbow,
    /// At the hip of a piece that goes on below it.
    Hip,
    /// At her knee.
    Knee,
    /// At her ankle.
    Ankle,
    /// Where the floor is, in her shoes.
    Floor,
    /// Where a band is folded over its own length.
    Fold,
}

impl LevelName {
    /// The trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Bust => "bust line",
            Self::Waist => "waist line",
            Self::Biceps => "biceps line",
            Self::Elbow => "elbow line",
            Self::Hip => "hip line",
            Self::Knee => "knee line",
            Self::Ankle => "ankle line",
            Self::Floor => "floor line",
            Self::Fold => "fold line",
        }
    }
}

/// Which part of the garment a piece is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum GarmentPart {
    /// Bodice front, half.
    BodiceFront,
    /// Bodice back, half.
    BodiceBack,
    /// Dress front to the hip, half.
    DressFront,
    /// Dress back to the hip, half.
    DressBack,
    /// One-piece sleeve, whole: x from its middle line towards the front.
    Sleeve,
    /// The part of a front between the centre and a princess seam.
    CentrePanel,
    /// The part of a front between a princess seam and the side.
    SidePanel,
    /// The part of a back between the centre and a princess seam.
    BackCentrePanel,
    /// The part of a back between a princess seam and the side.
    BackSidePanel,
    /// The part of a front above a seam under the bust, half.
    UpperFront,
    /// The part of a front between that seam and the waist, half.
    FrontBand,
    /// The part of a back above a seam under the bust, half.
    UpperBack,
    /// The part of a back between that seam and the waist, half.
    BackBand,
    /// What lies against the neckline in front.
    FrontNeckFacing,
    /// What lies against the neckline behind.
    BackNeckFacing,
    /// What lies against the armhole in front.
    FrontArmholeFacing,
    /// What lies against the armhole behind.
    BackArmholeFacing,
    /// What lies against an upper edge in front.
    FrontEdgeFacing,
    /// What lies against an upper edge behind.
    BackEdgeFacing,
    /// What lies against neckline and armhole in front, with the shoulder between them.
    FrontFacingInOne,
    /// What lies against neckline and armhole behind, with the shoulder between them.
    BackFacingInOne,
    /// What stands up from the neckline, half.
    CollarStand,
    /// What is sewn to the waist, all round.
    Waistband,
    /// What is sewn to the hem of a sleeve.
    Cuff,
    /// A strip cut on the bias for the neckline, all round.
    NeckStrip,
    /// A strip cut on the bias for an armhole.
    ArmholeStrip,
    /// A strip cut on the bias for an upper edge, all round.
    EdgeStrip,
    /// What is sewn to an upper edge and goes on over both arms, all round.
    OffShoulderBand,
    /// Skirt front from the waist down, half.
    SkirtFront,
    /// Skirt back from the waist down, half.
    SkirtBack,
    /// Skirt front that is joined to a bodice at the waist, half.
    JoinedSkirtFront,
    /// Skirt back that is joined to a bodice at the waist, half.
    JoinedSkirtBack,
}

/// What a pattern is of, as far as it decides what can be done to it.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Garment {
    /// A bodice or a dress, with or without a sleeve.
    #[default]
    Bodice,
    /// A skirt from the waist down.
    Skirt,
    /// Trousers: only compared, as a card measured by hand. They are neither drafted nor altered here.
    Trousers,
}

impl Garment {
    /// Every garment, as they are offered.
    pub const ALL: [Self; 3] = [Self::Bodice, Self::Skirt, Self::Trousers];

    /// Stable code.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Bodice => "bodice",
            Self::Skirt => "skirt",
            Self::Trousers => "trousers",
        }
    }

    /// The garment of a code; a bodice where it is not known.
    pub fn of(code: &str) -> Self {
        Self::ALL.into_iter().find(|garment| garment.code() == code).unwrap_or_default()
    }

    /// The ease set it is usually drafted and compared with; the house's own where there is none.
    pub const fn usual_ease(self) -> Option<&'static str> {
        match self {
            Self::Bodice => None,
            Self::Skirt => Some("skirt"),
            Self::Trousers => Some("trousers"),
        }
    }
}

/// A side of the wearer's body.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = WornSide))]
#[serde(rename_all = "snake_case")]
pub enum WornSide {
    /// Her left.
    Left,
    /// Her right.
    Right,
}

impl WornSide {
    /// Both, in the order they are told.
    pub const BOTH: [Self; 2] = [Self::Left, Self::Right];

    /// The side that a reading or an observation is of, where it is of one alone.
    pub const fn of(side: Side) -> Option<Self> {
        match side {
            Side::Both => None,
            Side::Left => Some(Self::Left),
            Side::Right => Some(Self::Right),
        }
    }

    /// The word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Left => "left",
            Self::Right => "right",
        }
    }

    /// The other one.
    pub const fn other(self) -> Self {
        match self {
            Self::Left => Self::Right,
            Self::Right => Self::Left,
        }
    }
}

/// Which piece of the garment: its part, and the side where left and right differ.
///
/// Written `bodice_front`, or `bodice_front_left`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(into = "String", try_from = "String")]
pub struct PieceKind {
    part: GarmentPart,
    side: Option<WornSide>,
}

/// What of the body a piece covers.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Covers {
    /// Her front.
    Front,
    /// Her back.
    Back,
    /// An arm.
    Arm,
    /// An edge of the garment, from outside.
    Edge,
}

/// Which share of that it is, in the order the shares are told.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Share {
    /// All of it.
    Whole,
    /// Between the centre and a princess seam.
    CentrePanel,
    /// Between a princess seam and the side.
    SidePanel,
    /// Above a seam under the bust.
    Upper,
    /// Below a seam under the bust.
    Band,
    /// Within the width of a facing from the neckline.
    NeckFacing,
    /// Within the width of a facing from the armhole.
    ArmholeFacing,
    /// Within the width of a facing from an upper edge.
    EdgeFacing,
    /// Within the width of a facing from the neckline or the armhole, the shoulder between them.
    FacingInOne,
    /// What is sewn to an edge from outside: it is no share of the body, and each is one by itself.
    SewnOn(GarmentPart),
}

impl Share {
    /// What follows an edge of other pieces: the edges, and the word for what it is.
    const FOLLOWS: [(Self, &'static [Seam], &'static str); 13] = [
        (Self::NeckFacing, &[Seam::Neckline], FACING),
        (Self::ArmholeFacing, &[Seam::Armhole], FACING),
        (Self::EdgeFacing, &[Seam::UpperEdge], FACING),
        (Self::FacingInOne, &[Seam::Neckline, Seam::Armhole], FACING),
        (Self::SewnOn(GarmentPart::CollarStand), &[Seam::Neckline], "collar stand"),
        (Self::SewnOn(GarmentPart::Waistband), &[Seam::Waist], "waistband"),
        (Self::SewnOn(GarmentPart::Cuff), &[Seam::Hem], "cuff"),
        (Self::SewnOn(GarmentPart::NeckStrip), &[Seam::Neckline], "bias strip"),
        (Self::SewnOn(GarmentPart::ArmholeStrip), &[Seam::Armhole], "bias strip"),
        (Self::SewnOn(GarmentPart::EdgeStrip), &[Seam::UpperEdge], "bias strip"),
        (Self::SewnOn(GarmentPart::OffShoulderBand), &[Seam::UpperEdge], "band over the arms"),
        (Self::SewnOn(GarmentPart::JoinedSkirtFront), &[Seam::Waist], "skirt"),
        (Self::SewnOn(GarmentPart::JoinedSkirtBack), &[Seam::Waist], "skirt"),
    ];

    /// The edges that this follows, as a facing or sewn on from outside; none where it is a part of the body's own.
    pub fn follows(self) -> &'static [Seam] {
        Self::FOLLOWS.into_iter().find(|(share, ..)| *share == self).map_or(&[], |(_, edges, _)| edges)
    }

    /// The word for what follows an edge.
    pub fn word(self) -> Option<&'static str> {
        Self::FOLLOWS.into_iter().find(|(share, ..)| *share == self).map(|(.., word)| word)
    }

    /// The facing that lies against these edges and no other.
    pub fn facing_of(edges: &[Seam]) -> Option<Self> {
        let is_it = |(_, known, word): &(Self, &[Seam], &str)| *word == FACING && *known == edges;
        Self::FOLLOWS.into_iter().find(is_it).map(|(share, ..)| share)
    }

    /// Whether it lies against an edge, cut from the same place once more.
    pub fn is_facing(self) -> bool {
        self.word() == Some(FACING)
    }

    /// The share of its edge that it is shorter by, so that it is stretched where the edge is hollow (common practice, no source).
    pub const fn stretched(self) -> f64 {
        match self {
            Self::SewnOn(GarmentPart::NeckStrip | GarmentPart::ArmholeStrip) => 0.03,
            _ => 0.0,
        }
    }
}

/// The word for a facing.
const FACING: &str = "facing";

/// Every part with its code and the name on the label, what it covers and which share of that.
const PARTS: [(GarmentPart, &str, &str, Covers, Share); 32] = [
    (GarmentPart::BodiceFront, "bodice_front", "Bodice front", Covers::Front, Share::Whole),
    (GarmentPart::BodiceBack, "bodice_back", "Bodice back", Covers::Back, Share::Whole),
    (GarmentPart::DressFront, "dress_front", "Dress front", Covers::Front, Share::Whole),
    (GarmentPart::DressBack, "dress_back", "Dress back", Covers::Back, Share::Whole),
    (GarmentPart::Sleeve, "sleeve", "Sleeve", Covers::Arm, Share::Whole),
    (GarmentPart::CentrePanel, "centre_panel", "Centre front panel", Covers::Front, Share::CentrePanel),
    (GarmentPart::SidePanel, "side_panel", "Side front panel", Covers::Front, Share::SidePanel),
    (
        GarmentPart::BackCentrePanel,
        "back_centre_panel",
        "Centre back panel",
        Covers::Back,
        Share::CentrePanel,
    ),
    (GarmentPart::BackSidePanel, "back_side_panel", "Side back panel", Covers::Back, Share::SidePanel),
    (GarmentPart::UpperFront, "upper_front", "Upper front", Covers::Front, Share::Upper),
    (GarmentPart::FrontBand, "front_band", "Front band", Covers::Front, Share::Band),
    (GarmentPart::UpperBack, "upper_back", "Upper back", Covers::Back, Share::Upper),
    (GarmentPart::BackBand, "back_band", "Back band", Covers::Back, Share::Band),
    (
        GarmentPart::FrontNeckFacing,
        "front_neck_facing",
        "Front neck facing",
        Covers::Front,
        Share::NeckFacing,
    ),
    (GarmentPart::BackNeckFacing, "back_neck_facing", "Back neck facing", Covers::Back, Share::NeckFacing),
    (
        GarmentPart::FrontArmholeFacing,
        "front_armhole_facing",
        "Front armhole facing",
        Covers::Front,
        Share::ArmholeFacing,
    ),
    (
        GarmentPart::BackArmholeFacing,
        "back_armhole_facing",
        "Back armhole facing",
        Covers::Back,
        Share::ArmholeFacing,
    ),
    (GarmentPart::FrontEdgeFacing, "front_edge_facing", "Front facing", Covers::Front, Share::EdgeFacing),
    (GarmentPart::BackEdgeFacing, "back_edge_facing", "Back facing", Covers::Back, Share::EdgeFacing),
    (
        GarmentPart::FrontFacingInOne,
        "front_facing_in_one",
        "Front facing in one",
        Covers::Front,
        Share::FacingInOne,
    ),
    (
        GarmentPart::BackFacingInOne,
        "back_facing_in_one",
        "Back facing in one",
        Covers::Back,
        Share::FacingInOne,
    ),
    (
        GarmentPart::CollarStand,
        "collar_stand",
        "Collar stand",
        Covers::Edge,
        Share::SewnOn(GarmentPart::CollarStand),
    ),
    (GarmentPart::Waistband, "waistband", "Waistband", Covers::Edge, Share::SewnOn(GarmentPart::Waistband)),
    (GarmentPart::Cuff, "cuff", "Cuff", Covers::Edge, Share::SewnOn(GarmentPart::Cuff)),
    (
        GarmentPart::NeckStrip,
        "neck_strip",
        "Bias strip, neckline",
        Covers::Edge,
        Share::SewnOn(GarmentPart::NeckStrip),
    ),
    (
        GarmentPart::ArmholeStrip,
        "armhole_strip",
        "Bias strip, armhole",
        Covers::Edge,
        Share::SewnOn(GarmentPart::ArmholeStrip),
    ),
    (
        GarmentPart::EdgeStrip,
        "edge_strip",
        "Bias strip, upper edge",
        Covers::Edge,
        Share::SewnOn(GarmentPart::EdgeStrip),
    ),
    (
        GarmentPart::OffShoulderBand,
        "off_shoulder_band",
        "Off-shoulder band",
        Covers::Edge,
        Share::SewnOn(GarmentPart::OffShoulderBand),
    ),
    (GarmentPart::SkirtFront, "skirt_front", "Skirt front", Covers::Front, Share::Whole),
    (GarmentPart::SkirtBack, "skirt_back", "Skirt back", Covers::Back, Share::Whole),
    (
        GarmentPart::JoinedSkirtFront,
        "joined_skirt_front",
        "Skirt front",
        Covers::Front,
        Share::SewnOn(GarmentPart::JoinedSkirtFront),
    ),
    (
        GarmentPart::JoinedSkirtBack,
        "joined_skirt_back",
        "Skirt back",
        Covers::Back,
        Share::SewnOn(GarmentPart::JoinedSkirtBack),
    ),
];

impl PieceKind {
    /// Bodice front, both sides alike.
    pub const BODICE_FRONT: Self = Self::of(GarmentPart::BodiceFront);
    /// Bodice back, both sides alike.
    pub const BODICE_BACK: Self = Self::of(GarmentPart::BodiceBack);
    /// Dress front, both sides alike.
    pub const DRESS_FRONT: Self = Self::of(GarmentPart::DressFront);
    /// Dress back, both sides alike.
    pub const DRESS_BACK: Self = Self::of(GarmentPart::DressBack);
    /// Sleeve, both sides alike.
    pub const SLEEVE: Self = Self::of(GarmentPart::Sleeve);
    /// Skirt front, both sides alike.
    pub const SKIRT_FRONT: Self = Self::of(GarmentPart::SkirtFront);
    /// Skirt back, both sides alike.
    pub const SKIRT_BACK: Self = Self::of(GarmentPart::SkirtBack);

    /// That part, both sides alike.
    pub const fn of(part: GarmentPart) -> Self {
        Self { part, side: None }
    }

    /// The same piece for one side only.
    #[must_use]
    pub const fn on(self, side: WornSide) -> Self {
        Self { part: self.part, side: Some(side) }
    }

    /// The piece that is this share of what it covers: what it becomes when it is divided.
    #[must_use]
    pub fn as_share(self, share: Share) -> Self {
        let part = PARTS.into_iter().find(|(.., covers, of)| (*covers, *of) == (self.covers(), share));
        Self { part: part.map_or(self.part, |(part, ..)| part), side: self.side }
    }

    /// Which part of the garment.
    pub const fn part(self) -> GarmentPart {
        self.part
    }

    /// The side it is for, where left and right differ.
    pub const fn side(self) -> Option<WornSide> {
        self.side
    }

    /// The part's name, without the side.
    pub fn part_name(self) -> &'static str {
        self.row().2
    }

    /// The name on the label.
    pub fn name(self) -> String {
        let part = self.part_name();
        match self.side {
            None => part.to_owned(),
            Some(side) => format!("{part}, {}", side.name()),
        }
    }

    /// What of the body it covers.
    pub fn covers(self) -> Covers {
        self.row().3
    }

    /// Which share of that it is.
    pub fn share(self) -> Share {
        self.row().4
    }

    /// The centre line's seam; a sleeve has none, its long seam stands for it, for a side panel's its princess seam,
    /// for an armhole facing's the shoulder, for a band's its outer edge.
    pub fn centre(self) -> Seam {
        match (self.covers(), self.share()) {
            (Covers::Arm, _) => Seam::UnderSleeve,
            (_, Share::SidePanel) => Seam::Princess,
            (_, Share::ArmholeFacing) => Seam::Shoulder,
            (Covers::Edge, Share::SewnOn(GarmentPart::CollarStand)) => Seam::CentreBack,
            (Covers::Edge, _) => Seam::BandEdge,
            (Covers::Front, _) => Seam::CentreFront,
            (Covers::Back, _) => Seam::CentreBack,
        }
    }

    /// Whether it is a part of a skirt: its waist is its upper edge, and its outline begins there.
    pub const fn is_skirt(self) -> bool {
        matches!(self.part, GarmentPart::SkirtFront | GarmentPart::SkirtBack) || self.is_joined_skirt()
    }

    /// Whether it is a part of a skirt that follows the waist of a bodice.
    pub const fn is_joined_skirt(self) -> bool {
        matches!(self.part, GarmentPart::JoinedSkirtFront | GarmentPart::JoinedSkirtBack)
    }

    /// Whether it is a whole front of a bodice or a dress.
    pub const fn is_front(self) -> bool {
        matches!(self.part, GarmentPart::BodiceFront | GarmentPart::DressFront)
    }

    /// Whether it is a whole back of a bodice or a dress.
    pub const fn is_back(self) -> bool {
        matches!(self.part, GarmentPart::BodiceBack | GarmentPart::DressBack)
    }

    /// Whether it is a panel of a divided front or back.
    pub fn is_panel(self) -> bool {
        matches!(self.share(), Share::CentrePanel | Share::SidePanel)
    }

    /// Whether it lies against an edge, cut from the same place once more.
    pub fn is_facing(self) -> bool {
        self.share().is_facing()
    }

    /// Whether it is sewn to a finished edge: a band, a collar stand, a strip, or a skirt that is joined to a bodice.
    pub fn is_sewn_on(self) -> bool {
        matches!(self.share(), Share::SewnOn(_))
    }

    /// Whether it follows an edge of other pieces, and has no part of the body of its own.
    pub fn is_dependent(self) -> bool {
        self.is_facing() || self.is_sewn_on()
    }

    /// Whether one of it serves the whole garment.
    pub fn is_cut_once(self) -> bool {
        matches!(
            self.part,
            GarmentPart::Waistband
                | GarmentPart::NeckStrip
                | GarmentPart::EdgeStrip
                | GarmentPart::OffShoulderBand
        )
    }

    /// Whether it came off another: a side panel, a band under the bust, a facing; or is sewn on.
    pub fn is_second_part(self) -> bool {
        self.is_dependent() || matches!(self.share(), Share::SidePanel | Share::Band)
    }

    /// Whether the darts on it shape the bust: a whole front of a bodice or a dress, or what of it lies above a seam under the
    /// bust.
    pub const fn shapes_bust(self) -> bool {
        self.is_front() || matches!(self.part, GarmentPart::UpperFront)
    }

    /// Whether it is a sleeve.
    pub const fn is_sleeve(self) -> bool {
        matches!(self.part, GarmentPart::Sleeve)
    }

    fn row(self) -> (GarmentPart, &'static str, &'static str, Covers, Share) {
        PARTS.into_iter().find(|(part, ..)| *part == self.part).unwrap_or(PARTS[0])
    }
}

impl From<PieceKind> for String {
    fn from(kind: PieceKind) -> Self {
        let (_, code, ..) = kind.row();
        match kind.side {
            None => code.to_owned(),
            Some(side) => format!("{code}_{}", side.name()),
        }
    }
}

impl TryFrom<String> for PieceKind {
    type Error = String;

    fn try_from(text: String) -> Result<Self, String> {
        let sided = |side: WornSide| {
            let code = text.strip_suffix(side.name())?.strip_suffix('_')?;
            Some((code, Some(side)))
        };
        let (code, side) = WornSide::BOTH.into_iter().find_map(sided).unwrap_or((&text, None));
        let part = PARTS.into_iter().find(|(_, known, ..)| *known == code);
        part.map(|(part, ..)| Self { part, side })
            .ok_or_else(|| format!("no piece is called \u{201c}{text}\u{201d}"))
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for PieceKind {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        utoipa::openapi::ObjectBuilder::new()
            .schema_type(utoipa::openapi::schema::Type::String)
            .description(Some("Which piece of the garment, such as `bodice_front` or `bodice_front_left`."))
            .into()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for PieceKind {}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_piece_is_written_with_its_side_and_read_back() {
        for (part, code, ..) in PARTS {
            let both = PieceKind::of(part);
            for (kind, written) in [
                (both, code.to_owned()),
                (both.on(WornSide::Left), format!("{code}_left")),
                (both.on(WornSide::Right), format!("{code}_right")),
            ] {
                assert_eq!(String::from(kind), written);
                assert_eq!(PieceKind::try_from(written), Ok(kind));
            }
        }
        assert!(PieceKind::try_from("bodice_middle".to_owned()).is_err());
    }
}
