//! Seam allowance: how much each edge gets on output, in millimetres.

use serde::{Deserialize, Serialize};

use super::names::Covers;
use super::piece::{Edge, Piece, Seam};
use crate::{Natural, Style, Unit};

/// The house's allowances by edge, in millimetres. On the fold there is none.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Allowances {
    /// Side seam.
    pub side: f64,
    /// Shoulder.
    pub shoulder: f64,
    /// Waist.
    pub waist: f64,
    /// Neckline, and the upper edge of a piece without shoulders.
    pub neckline: f64,
    /// Armhole.
    pub armhole: f64,
    /// Centre front or back where it is a seam.
    pub centre: f64,
    /// Hem.
    #[serde(default = "Allowances::usual_hem")]
    pub hem: f64,
}

impl Default for Allowances {
    /// As houses of inches have them.
    fn default() -> Self {
        Self::usual(Unit::Inch)
    }
}

impl Allowances {
    /// What houses with this unit add (common practice, no source): 1/2 in or 1.5 cm, 3/8 in or 1 cm at neckline and
    /// armhole, 1 in or 2.5 cm at a centre seam and at the hem.
    pub const fn usual(unit: Unit) -> Self {
        let seam = Natural::new(0.5, 15.0).in_unit(unit);
        let curved = Natural::new(0.375, 10.0).in_unit(unit);
        let wide = Natural::new(1.0, 25.0).in_unit(unit);
        Self {
            side: seam,
            shoulder: seam,
            waist: seam,
            neckline: curved,
            armhole: curved,
            centre: wide,
            hem: wide,
        }
    }

    /// None at all: "I add it on the cloth".
    pub const NONE: Self =
        Self { side: 0.0, shoulder: 0.0, waist: 0.0, neckline: 0.0, armhole: 0.0, centre: 0.0, hem: 0.0 };

    /// Houses that were set up before there were hems.
    fn usual_hem() -> f64 {
        Self::default().hem
    }

    /// The widest allowance there is, in millimetres.
    pub const MOST: f64 = 60.0;

    /// Whether allowances from outside can be drawn.
    ///
    /// # Errors
    ///
    /// A sentence that names the edge and the limit.
    pub fn validate(&self, style: Style) -> Result<(), String> {
        let edges = [
            ("side", self.side),
            ("shoulder", self.shoulder),
            ("waist", self.waist),
            ("neckline", self.neckline),
            ("armhole", self.armhole),
            ("centre", self.centre),
            ("hem", self.hem),
        ];
        match edges.iter().find(|(_, mm)| !(0.0..=Self::MOST).contains(mm)) {
            Some((name, _)) => {
                let most = style.with_unit(Self::MOST);
                Err(format!("the {name} allowance must lie between nothing and {most}"))
            }
            None => Ok(()),
        }
    }

    /// What an edge of a piece gets: a band or a strip has all round what the edge has that it is sewn to, and a hem that
    /// is sewn to a cuff has that of a seam.
    pub fn on(&self, piece: &Piece, edge: &Edge) -> f64 {
        let sewn = |seam: Seam| if seam == Seam::Hem { Seam::UnderSleeve } else { seam };
        let seam = match piece.kind.share().follows() {
            [followed, ..] if piece.kind.covers() == Covers::Edge => sewn(*followed),
            _ if piece.cuffed => sewn(edge.seam),
            _ => edge.seam,
        };
        self.of(seam, edge.fold)
    }

    /// What an edge of this seam gets.
    fn of(&self, seam: Seam, fold: bool) -> f64 {
        if fold {
            return 0.0;
        }
        match seam {
            Seam::Side | Seam::UnderSleeve | Seam::Princess | Seam::UnderBust => self.side,
            Seam::Shoulder | Seam::Overarm => self.shoulder,
            Seam::Waist => self.waist,
            Seam::Neckline | Seam::UpperEdge => self.neckline,
            Seam::Armhole | Seam::Cap => self.armhole,
            Seam::Hem | Seam::SleeveEdge => self.hem,
            Seam::CentreFront | Seam::CentreBack => self.centre,
            // Of a band as of the edge it is sewn to.
            Seam::FacingEdge | Seam::BandEdge | Seam::BandEnd | Seam::DartLeg => 0.0,
        }
    }
}
