//! The trade's names for what a pattern is made of: seams, places of darts, levels, pieces.

use serde::{Deserialize, Serialize};

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
    /// A leg of a dart.
    DartLeg,
}

impl Seam {
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
        }
    }

    /// The seam the mouth lies on.
    pub const fn seam(self) -> Seam {
        match self {
            Self::Waist | Self::WaistSide => Seam::Waist,
            Self::Side => Seam::Side,
            Self::Shoulder => Seam::Shoulder,
            Self::Armhole => Seam::Armhole,
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
}

impl LevelName {
    /// The trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Bust => "bust line",
            Self::Waist => "waist line",
            Self::Biceps => "biceps line",
            Self::Elbow => "elbow line",
        }
    }
}

/// Which piece of the garment.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PieceKind {
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
}

impl PieceKind {
    /// The name on the label.
    pub const fn name(self) -> &'static str {
        match self {
            Self::BodiceFront => "Bodice front",
            Self::BodiceBack => "Bodice back",
            Self::DressFront => "Dress front",
            Self::DressBack => "Dress back",
            Self::Sleeve => "Sleeve",
        }
    }

    /// The centre line's seam; a sleeve has none, its long seam stands for it.
    pub const fn centre(self) -> Seam {
        match self {
            Self::BodiceFront | Self::DressFront => Seam::CentreFront,
            Self::BodiceBack | Self::DressBack => Seam::CentreBack,
            Self::Sleeve => Seam::UnderSleeve,
        }
    }

    /// Whether it covers the bust.
    pub const fn is_front(self) -> bool {
        matches!(self, Self::BodiceFront | Self::DressFront)
    }

    /// Whether it covers the shoulder blades.
    pub const fn is_back(self) -> bool {
        matches!(self, Self::BodiceBack | Self::DressBack)
    }
}
