//! Measuring on the pattern, darts really closed.

use kurbo::{Affine, Line, Point};
use serde::{Deserialize, Serialize};

use super::curve::{Curve, turn_degrees};
use super::piece::{DartPlace, LevelName, Pattern, Piece, PieceKind, Seam};

/// A figure that is measured on a pattern.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Figure {
    /// Bust line fold to fold, darts closed, all round.
    Bust,
    /// Waist, darts closed, all round.
    Waist,
    /// Armhole to armhole in front, half-way from neck to underarm.
    AcrossFront,
    /// Armhole to armhole behind, half-way from neck to underarm.
    AcrossBack,
    /// Front shoulder seam.
    ShoulderFront,
    /// Back shoulder seam, less its dart.
    ShoulderBack,
    /// Drop of the front shoulder tip below the neck side.
    ShoulderDrop,
    /// Front half of the neckline.
    NecklineFront,
    /// Back half of the neckline.
    NecklineBack,
    /// Front armhole.
    ArmholeFront,
    /// Back armhole.
    ArmholeBack,
    /// Front side seam, less its dart.
    SideFront,
    /// Back side seam.
    SideBack,
    /// Centre front, neck pit to waist.
    CentreFront,
    /// Centre back, nape to waist.
    CentreBack,
    /// Neck side over the bust point to the waist, waist dart closed.
    FrontLength,
    /// Neck-side level to the waist behind.
    BackLength,
    /// Nape down to the underarm level.
    ArmholeDepth,
    /// Neck side to bust point.
    BustPointDepth,
    /// Bust point to bust point.
    BustSpan,
    /// Front waist dart's mouth.
    WaistDartFront,
    /// Back waist dart's mouth.
    WaistDartBack,
    /// Side dart's mouth.
    SideDart,
    /// Shoulder dart's mouth.
    ShoulderDart,
}

impl Figure {
    /// The trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Bust => "bust",
            Self::Waist => "waist",
            Self::AcrossFront => "across front",
            Self::AcrossBack => "across back",
            Self::ShoulderFront => "front shoulder",
            Self::ShoulderBack => "back shoulder",
            Self::ShoulderDrop => "shoulder drop",
            Self::NecklineFront => "front neckline",
            Self::NecklineBack => "back neckline",
            Self::ArmholeFront => "front armhole",
            Self::ArmholeBack => "back armhole",
            Self::SideFront => "front side seam",
            Self::SideBack => "back side seam",
            Self::CentreFront => "centre front",
            Self::CentreBack => "centre back",
            Self::FrontLength => "front length",
            Self::BackLength => "back length",
            Self::ArmholeDepth => "armhole depth",
            Self::BustPointDepth => "neck side to bust point",
            Self::BustSpan => "bust span",
            Self::WaistDartFront => "front waist dart",
            Self::WaistDartBack => "back waist dart",
            Self::SideDart => "side dart",
            Self::ShoulderDart => "shoulder dart",
        }
    }
}

/// What was measured on a pattern, in millimetres.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Figures(Vec<(Figure, f64)>);

impl Figures {
    /// One figure; `None` where the pattern has no such thing.
    pub fn get(&self, figure: Figure) -> Option<f64> {
        self.0.iter().find(|(f, _)| *f == figure).map(|(_, mm)| *mm)
    }

    /// All figures in a fixed order.
    pub fn iter(&self) -> impl Iterator<Item = (Figure, f64)> + '_ {
        self.0.iter().copied()
    }
}

/// Measures front and back bodice.
pub fn measure(pattern: &Pattern) -> Figures {
    let mut figures = Vec::new();
    let front = pattern.piece(PieceKind::BodiceFront);
    let back = pattern.piece(PieceKind::BodiceBack);
    if let (Some(front), Some(back)) = (front, back) {
        figures.push((Figure::Bust, 2.0 * (half_bust(front) + half_bust(back))));
        let waist = front.sewn_length(Seam::Waist) + back.sewn_length(Seam::Waist);
        figures.push((Figure::Waist, 2.0 * waist));
    }
    if let Some(front) = front {
        measure_front(front, &mut figures);
    }
    if let Some(back) = back {
        measure_back(back, &mut figures);
    }
    figures.sort_by_key(|(figure, _)| *figure);
    Figures(figures)
}

fn measure_front(front: &Piece, figures: &mut Vec<(Figure, f64)>) {
    use Figure as F;
    figures.extend([
        (F::AcrossFront, across(front) * 2.0),
        (F::ShoulderFront, front.sewn_length(Seam::Shoulder)),
        (F::ShoulderDrop, front.tip().y - front.neck_side().y),
        (F::NecklineFront, front.sewn_length(Seam::Neckline)),
        (F::ArmholeFront, front.sewn_length(Seam::Armhole)),
        (F::SideFront, front.sewn_length(Seam::Side)),
        (F::CentreFront, front.sewn_length(Seam::CentreFront)),
    ]);
    // The pivot, not the girth line's middle: that is where her bust point is meant to lie.
    let pivot = front.dart(DartPlace::Waist).or(front.dart(DartPlace::Side)).map(|dart| dart.pivot);
    if let Some(pivot) = pivot {
        figures.push((F::BustPointDepth, pivot.y - front.neck_side().y));
        figures.push((F::BustSpan, pivot.x * 2.0));
        figures.push((F::FrontLength, front_length(front, pivot)));
    }
    figures.extend(dart_mouth(front, DartPlace::Waist).map(|mm| (F::WaistDartFront, mm)));
    figures.extend(dart_mouth(front, DartPlace::Side).map(|mm| (F::SideDart, mm)));
}

fn measure_back(back: &Piece, figures: &mut Vec<(Figure, f64)>) {
    use Figure as F;
    figures.extend([
        (F::AcrossBack, across(back) * 2.0),
        (F::ShoulderBack, back.sewn_length(Seam::Shoulder)),
        (F::NecklineBack, back.sewn_length(Seam::Neckline)),
        (F::ArmholeBack, back.sewn_length(Seam::Armhole)),
        (F::SideBack, back.sewn_length(Seam::Side)),
        (F::CentreBack, back.sewn_length(Seam::CentreBack)),
        (F::BackLength, back.centre_waist().y - back.neck_side().y),
        (F::ArmholeDepth, back.underarm().y - back.centre_top().y),
    ]);
    figures.extend(dart_mouth(back, DartPlace::Waist).map(|mm| (F::WaistDartBack, mm)));
    figures.extend(dart_mouth(back, DartPlace::Shoulder).map(|mm| (F::ShoulderDart, mm)));
}

fn dart_mouth(piece: &Piece, place: DartPlace) -> Option<f64> {
    piece.mouth(place).map(|(first, second)| first.distance(second))
}

/// Centre to bust point level, then along the points carried with the cloth to the side.
fn half_bust(piece: &Piece) -> f64 {
    let points = piece.level(LevelName::Bust).map_or(&[][..], |level| &level.points);
    match points {
        [centre, mid, rest @ ..] => {
            let onward: f64 = std::iter::once(mid).chain(rest).zip(rest).map(|(a, b)| a.distance(*b)).sum();
            mid.x - centre.x + onward
        }
        _ => 0.0,
    }
}

/// The level at which across front and across back are measured.
pub fn across_level(piece: &Piece) -> f64 {
    piece.centre_top().y.midpoint(piece.underarm().y)
}

fn across(piece: &Piece) -> f64 {
    let level = across_level(piece);
    let hit = |edge: &super::Edge| edge.curve.crossing_level(level).map(|s| edge.curve.point_at(s).x);
    piece.edges_of(Seam::Armhole).find_map(hit).unwrap_or_else(|| piece.tip().x)
}

/// Down from the neck side over the bust point's x to the waist, the waist dart closed.
fn front_length(front: &Piece, pivot: Point) -> f64 {
    let side_closed = front.mouth(DartPlace::Waist).map_or(Affine::IDENTITY, |(side, centre)| {
        Affine::rotate_about(turn_degrees(side - pivot, centre - pivot).to_radians(), pivot)
    });
    let waist: Vec<Curve> = front.edges_of(Seam::Waist).map(|edge| edge.curve.clone()).collect();
    let plumb = Line::new((pivot.x, pivot.y), (pivot.x, pivot.y + 2000.0));
    let on = |curve: &Curve| curve.crossing(plumb).map(|s| curve.point_at(s).y);
    let found = match waist.as_slice() {
        [side, centre] => on(&side.transformed(side_closed)).or_else(|| on(centre)),
        [only] => on(only),
        _ => None,
    };
    found.unwrap_or_else(|| front.centre_waist().y) - front.neck_side().y
}
