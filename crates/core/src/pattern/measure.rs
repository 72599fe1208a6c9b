//! Measuring on the pattern, darts really closed.

use kurbo::{Affine, Line, Point};
use serde::{Deserialize, Serialize};

use super::half::Half;
use super::piece::{DartPlace, Edge, LevelName, Pattern, Piece, Seam, WornSide};
use crate::geometry::{Curve, turn_degrees};

/// A figure that is measured on a pattern.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PatternMeasure {
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
    /// Mouth of a bust dart at the armhole.
    ArmholeDart,
    /// Hip line, fold to fold, all round.
    Hip,
    /// Top of the cap down to the biceps line.
    CapHeight,
    /// Sleeve at the biceps line.
    CapWidth,
    /// The cap along its edge.
    CapLength,
    /// Cap less armhole.
    CapEase,
    /// Top of the cap to the hem.
    SleeveLength,
    /// Round the hem of the sleeve.
    SleeveHem,
    /// The whole armhole, front and back.
    Armhole,
    /// The whole neckline, all round.
    Neckline,
    /// Hip line to hem, down the centre.
    BelowHip,
    /// The hem, all round, of a garment that goes on below the hip.
    Hem,
    /// A skirt's side from the waist to the hip line.
    WaistToHip,
    /// A skirt's front side seam, waist to hem.
    SkirtSideFront,
    /// A skirt's back side seam, waist to hem.
    SkirtSideBack,
    /// A skirt's centre front, waist to hem.
    SkirtCentreFront,
    /// A skirt's centre back, waist to hem.
    SkirtCentreBack,
    /// Waist to the crotch line, at the side.
    CrotchDepth,
    /// The crotch seam, front waist to back waist.
    CrotchLength,
    /// Inside leg seam, crotch to hem.
    InsideLeg,
    /// One leg all round, at the crotch line.
    LegAtCrotch,
    /// One leg all round, at the fullest thigh.
    LegAtThigh,
    /// One leg all round, at the knee.
    LegAtKnee,
    /// One leg all round, at the fullest calf.
    LegAtCalf,
    /// One leg all round, at the hem.
    LegHem,
    /// The upper edge of the band under the bust, all round.
    UnderBust,
    /// Half-way from the waist down to the hip, darts closed, all round.
    TopHip,
    /// Neck side over the bust point to the hip line, of a front that goes on below the waist.
    FrontToHip,
    /// The middle of the back shoulder down to the hip line, of a back that goes on below the waist.
    BackToHip,
}

impl PatternMeasure {
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
            Self::ArmholeDart => "armhole dart",
            Self::Hip => "hip",
            Self::CapHeight => "cap height",
            Self::CapWidth => "cap width",
            Self::CapLength => "cap length",
            Self::CapEase => "cap ease",
            Self::SleeveLength => "sleeve length",
            Self::SleeveHem => "sleeve hem",
            Self::Armhole => "armhole",
            Self::Neckline => "neckline",
            Self::BelowHip => "hip to hem",
            Self::Hem => "hem",
            Self::WaistToHip => "waist to hip",
            Self::SkirtSideFront => "skirt's front side",
            Self::SkirtSideBack => "skirt's back side",
            Self::SkirtCentreFront => "skirt's centre front",
            Self::SkirtCentreBack => "skirt's centre back",
            Self::CrotchDepth => "crotch depth",
            Self::CrotchLength => "crotch seam, front and back",
            Self::InsideLeg => "inside leg",
            Self::LegAtCrotch => "leg at the crotch line",
            Self::LegAtThigh => "leg at the fullest thigh",
            Self::LegAtKnee => "leg at the knee",
            Self::LegAtCalf => "leg at the calf",
            Self::LegHem => "trouser hem",
            Self::UnderBust => "under the bust",
            Self::TopHip => "top hip",
            Self::FrontToHip => "front, neck side to hip",
            Self::BackToHip => "back, shoulder to hip",
        }
    }
}

impl PatternMeasure {
    /// Every figure, in a fixed order.
    pub const ALL: [Self; 53] = [
        Self::Bust,
        Self::Waist,
        Self::AcrossFront,
        Self::AcrossBack,
        Self::ShoulderFront,
        Self::ShoulderBack,
        Self::ShoulderDrop,
        Self::NecklineFront,
        Self::NecklineBack,
        Self::ArmholeFront,
        Self::ArmholeBack,
        Self::SideFront,
        Self::SideBack,
        Self::CentreFront,
        Self::CentreBack,
        Self::FrontLength,
        Self::BackLength,
        Self::ArmholeDepth,
        Self::BustPointDepth,
        Self::BustSpan,
        Self::WaistDartFront,
        Self::WaistDartBack,
        Self::SideDart,
        Self::ShoulderDart,
        Self::ArmholeDart,
        Self::Hip,
        Self::CapHeight,
        Self::CapWidth,
        Self::CapLength,
        Self::CapEase,
        Self::SleeveLength,
        Self::SleeveHem,
        Self::Armhole,
        Self::Neckline,
        Self::BelowHip,
        Self::Hem,
        Self::WaistToHip,
        Self::SkirtSideFront,
        Self::SkirtSideBack,
        Self::SkirtCentreFront,
        Self::SkirtCentreBack,
        Self::CrotchDepth,
        Self::CrotchLength,
        Self::InsideLeg,
        Self::LegAtCrotch,
        Self::LegAtThigh,
        Self::LegAtKnee,
        Self::LegAtCalf,
        Self::LegHem,
        Self::UnderBust,
        Self::TopHip,
        Self::FrontToHip,
        Self::BackToHip,
    ];
}

/// What was measured on a pattern, in millimetres.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(transparent)]
pub struct PatternMeasures(Vec<(PatternMeasure, f64)>);

impl FromIterator<(PatternMeasure, f64)> for PatternMeasures {
    fn from_iter<I: IntoIterator<Item = (PatternMeasure, f64)>>(figures: I) -> Self {
        let mut figures: Vec<_> = figures.into_iter().collect();
        figures.sort_by_key(|(figure, _)| *figure);
        Self(figures)
    }
}

impl PatternMeasures {
    /// One figure; `None` where the pattern has no such thing.
    pub fn get(&self, figure: PatternMeasure) -> Option<f64> {
        self.0.iter().find(|(f, _)| *f == figure).map(|(_, mm)| *mm)
    }

    /// All figures in a fixed order.
    pub fn iter(&self) -> impl Iterator<Item = (PatternMeasure, f64)> + '_ {
        self.0.iter().copied()
    }
}

/// Measures front, back and sleeve, as far as they are there. Where left and right differ, the mean of both
/// sides: all round that is exact.
pub fn measure(pattern: &Pattern) -> PatternMeasures {
    if !pattern.is_sided() {
        return measure_worn(pattern);
    }
    let [left, right] = WornSide::BOTH.map(|side| measure_worn(&pattern.worn_on(side)));
    left.iter()
        .map(|(figure, mm)| (figure, right.get(figure).map_or(mm, |other| mm.midpoint(other))))
        .collect()
}

fn measure_worn(pattern: &Pattern) -> PatternMeasures {
    let mut figures = Vec::new();
    let (front, back) = (pattern.front_half(), pattern.back_half());
    if let Some((front, back)) = front.as_ref().zip(back.as_ref()) {
        all_round(front, back, &mut figures);
    }
    if let Some(front) = &front {
        measure_front(front, &mut figures);
    }
    if let Some(back) = &back {
        measure_back(back, &mut figures);
    }
    if let Some((front, back)) = pattern.skirt_halves() {
        measure_skirt(&front, &back, &mut figures);
    }
    if let Some((front, back)) = pattern.joined_skirt_halves() {
        let mut of_skirt = Vec::new();
        measure_skirt(&front, &back, &mut of_skirt);
        // Its waist is the bodice's, and so are the darts above it.
        let is_of_bodice = |figure: &PatternMeasure| figures.iter().any(|(known, _)| known == figure);
        of_skirt.retain(|(figure, _)| !is_of_bodice(figure) && !WAIST_DARTS.contains(figure));
        figures.extend(of_skirt);
    }
    if let Some(sleeve) = pattern.sleeve() {
        let armhole = { front.zip(back) }
            .filter(|(front, _)| front.begins(Seam::Armhole).is_some())
            .map(|(front, back)| front.sewn_length(Seam::Armhole) + back.sewn_length(Seam::Armhole));
        measure_sleeve(sleeve, armhole, &mut figures);
    }
    figures.into_iter().collect()
}

/// The waist darts of a bodice; a skirt that is joined to it has its own.
const WAIST_DARTS: [PatternMeasure; 2] = [PatternMeasure::WaistDartFront, PatternMeasure::WaistDartBack];

/// What front and back make together.
fn all_round(front: &Half<'_>, back: &Half<'_>, figures: &mut Vec<(PatternMeasure, f64)>) {
    let both = |seam| front.sewn_length(seam) + back.sewn_length(seam);
    // Of a garment without shoulders the bust line behind may lie above its upper edge.
    let bust = bust_of(front).zip(bust_of(back));
    figures.extend(bust.map(|(front, back)| (PatternMeasure::Bust, 2.0 * (front + back))));
    figures.push((PatternMeasure::Waist, 2.0 * (front.sewn_waist() + back.sewn_waist())));
    if let Some((front, back)) = front.band().zip(back.band()) {
        let band = front.sewn_length(Seam::UnderBust) + back.sewn_length(Seam::UnderBust);
        figures.push((PatternMeasure::UnderBust, 2.0 * band));
    }
    let hem = both(Seam::Hem);
    match at_hip(front).zip(at_hip(back)) {
        Some((in_front, behind)) => {
            figures.push((PatternMeasure::Hip, 2.0 * (in_front + behind)));
            figures.push((PatternMeasure::Hem, 2.0 * hem));
            figures.extend(below_hip(front.at_centre()).map(|mm| (PatternMeasure::BelowHip, mm)));
        }
        None if front.at_centre().above_hip => figures.push((PatternMeasure::Hem, 2.0 * hem)),
        // A block ends at the hip: there its lower edge is the hip line.
        None => figures.extend((hem > 0.0).then_some((PatternMeasure::Hip, 2.0 * hem))),
    }
    for (figure, seam, halves) in
        [(PatternMeasure::Armhole, Seam::Armhole, 1.0), (PatternMeasure::Neckline, Seam::Neckline, 2.0)]
    {
        figures.extend(front.begins(seam).map(|_| (figure, halves * both(seam))));
    }
}

/// A half at its bust line, whole or parted; `None` where it has none.
fn bust_of(half: &Half<'_>) -> Option<f64> {
    match half.panels() {
        Some((centre, side)) => Some(length_of(centre, LevelName::Bust)? + length_of(side, LevelName::Bust)?),
        None => half.upper().map(half_bust),
    }
}

/// A skirt by itself, from the waist down.
fn measure_skirt(front: &Half<'_>, back: &Half<'_>, figures: &mut Vec<(PatternMeasure, f64)>) {
    use PatternMeasure as F;
    let both = |seam| front.sewn_length(seam) + back.sewn_length(seam);
    figures.extend([
        (F::Waist, 2.0 * both(Seam::Waist)),
        (F::Hem, 2.0 * both(Seam::Hem)),
        (F::SkirtSideFront, front.sewn_length(Seam::Side)),
        (F::SkirtSideBack, back.sewn_length(Seam::Side)),
        (F::SkirtCentreFront, front.sewn_length(Seam::CentreFront)),
        (F::SkirtCentreBack, back.sewn_length(Seam::CentreBack)),
    ]);
    figures.extend(at_hip(front).zip(at_hip(back)).map(|(front, back)| (F::Hip, 2.0 * (front + back))));
    let top_hip = at_top_hip(front.at_side()).zip(at_top_hip(back.at_side()));
    figures.extend(top_hip.map(|(front, back)| (F::TopHip, 2.0 * (front + back))));
    figures.extend(below_hip(front.at_centre()).map(|mm| (F::BelowHip, mm)));
    figures.extend(waist_to_hip(front.at_side()).map(|mm| (F::WaistToHip, mm)));
    figures.extend(waist_intake(front.at_centre()).map(|mm| (F::WaistDartFront, mm)));
    figures.extend(waist_intake(back.at_centre()).map(|mm| (F::WaistDartBack, mm)));
}

/// A skirt's half piece half-way from the waist down to the hip, its darts closed.
fn at_top_hip(piece: &Piece) -> Option<f64> {
    let hip = piece.level(LevelName::Hip)?.points.last()?.y;
    let level = piece.edges_of(Seam::Side).next()?.curve.start().y.midpoint(hip);
    let on = |edge: &Edge| Some(edge.curve.point_at(edge.curve.crossing_level(level)?).x);
    let mut crossings: Vec<f64> = piece.edges.iter().filter_map(on).collect();
    crossings.sort_by(f64::total_cmp);
    // From outside in and out again: what lies between the legs of a dart is not cloth.
    let (pairs, []) = crossings.as_chunks::<2>() else { return None };
    Some(pairs.iter().map(|[from, to]| to - from).sum())
}

/// A skirt's side, from the waist down to the hip line.
fn waist_to_hip(piece: &Piece) -> Option<f64> {
    let hip = piece.level(LevelName::Hip)?.points.last()?;
    Some(piece.edges_of(Seam::Side).next()?.curve.nearest(*hip))
}

/// A level line along its points.
fn length_of(piece: &Piece, level: LevelName) -> Option<f64> {
    let points = &piece.level(level)?.points;
    Some(points.windows(2).map(|pair| pair[0].distance(pair[1])).sum())
}

/// Half a piece, or both its panels, at the hip line; none where it ends there.
fn at_hip(half: &Half<'_>) -> Option<f64> {
    match (half.whole(), half.panels()) {
        (Some(whole), _) => length_of(whole, LevelName::Hip),
        (None, panels) => {
            let (centre, side) = panels?;
            Some(length_of(centre, LevelName::Hip)? + length_of(side, LevelName::Hip)?)
        }
    }
}

/// From the hip line to the hem, down the centre.
fn below_hip(piece: &Piece) -> Option<f64> {
    let from = piece.level(LevelName::Hip)?.points.first()?;
    Some(piece.edges_of(Seam::Hem).last()?.curve.end().distance(*from))
}

/// Slopes of the shoulders and angles of the darts, in degrees, each with its name.
pub fn angles(pattern: &Pattern) -> Vec<(String, f64)> {
    let mut found = Vec::new();
    for piece in &pattern.pieces {
        let name = piece.kind.name().to_lowercase();
        for edge in piece.edges_of(Seam::Shoulder).take(1) {
            let down = turn_degrees(kurbo::Vec2::new(1.0, 0.0), edge.curve.start_direction());
            found.push((format!("{name}, shoulder slope"), down));
        }
        for dart in &piece.darts {
            let Some((first, second)) = piece.mouth(dart.place) else { continue };
            let turn = turn_degrees(first - dart.pivot, second - dart.pivot).abs();
            found.push((format!("{name}, {}", dart.place.name()), turn));
        }
        for dart in &piece.two_pointed {
            let turn = turn_degrees(dart.first - dart.upper, dart.second - dart.upper).abs();
            found.push((format!("{name}, waist dart above the waist"), turn));
        }
    }
    found
}

fn measure_sleeve(sleeve: &Piece, armhole: Option<f64>, figures: &mut Vec<(PatternMeasure, f64)>) {
    use PatternMeasure as F;
    let cap = sleeve.sewn_length(Seam::Cap);
    let bounds = sleeve.bounds();
    let biceps = sleeve.level(LevelName::Biceps).map_or(&[][..], |level| &level.points);
    if let [first, .., last] = biceps {
        figures.push((F::CapHeight, first.y - bounds.y0));
        figures.push((F::CapWidth, first.distance(*last)));
    }
    figures.push((F::CapLength, cap));
    figures.extend(armhole.map(|armhole| (F::CapEase, cap - armhole)));
    // Down its middle: a hem that is square to both seams lies lower at them, or higher.
    let hem = sleeve.edges_of(Seam::Hem).next().map(|edge| edge.curve.point_at(edge.curve.length() / 2.0).y);
    figures.push((F::SleeveLength, hem.unwrap_or(bounds.y1) - bounds.y0));
    figures.push((F::SleeveHem, sleeve.sewn_length(Seam::Hem)));
}

fn measure_front(half: &Half<'_>, figures: &mut Vec<(PatternMeasure, f64)>) {
    use PatternMeasure as F;
    let centre = half.at_centre();
    figures.extend([(F::SideFront, half_side_to_waist(half)), (F::CentreFront, centre_to_waist(half))]);
    figures.extend(seams_of(
        half,
        [
            (F::ShoulderFront, Seam::Shoulder),
            (F::NecklineFront, Seam::Neckline),
            (F::ArmholeFront, Seam::Armhole),
        ],
    ));
    // Where the shoulder is parted its tip lies on another piece; where it goes on into the sleeve it has none.
    let has_armhole = half.begins(Seam::Armhole).is_some();
    if has_armhole && half.ends(Seam::Shoulder).is_some_and(|piece| piece.kind == centre.kind) {
        figures.push((F::ShoulderDrop, centre.tip().y - centre.neck_base_side().y));
    }
    let Some(front) = half.upper() else { return };
    if has_armhole {
        figures.push((F::AcrossFront, across(front) * 2.0));
    }
    // The pivot, not the girth line's middle: that is where her bust point is meant to lie.
    if let Some(pivot) = front.bust_pivot() {
        figures.push((F::BustPointDepth, pivot.y - front.neck_base_side().y));
        figures.push((F::BustSpan, pivot.x * 2.0));
        let waist = waist_below(half.at_centre_waist(), pivot);
        figures.push((F::FrontLength, waist - front.neck_base_side().y));
        let to_hip = waist_down_to_hip(half).map(|down| waist - front.neck_base_side().y + down);
        figures.extend(to_hip.map(|mm| (F::FrontToHip, mm)));
    }
    figures.extend(waist_intake(front).map(|mm| (F::WaistDartFront, mm)));
    figures.extend(dart_mouth(front, DartPlace::Side).map(|mm| (F::SideDart, mm)));
    figures.extend(dart_mouth(front, DartPlace::Armhole).map(|mm| (F::ArmholeDart, mm)));
}

/// The seams a half has, as they are sewn: one without shoulders has no neckline and no armhole either.
fn seams_of(
    half: &Half<'_>,
    seams: [(PatternMeasure, Seam); 3],
) -> impl Iterator<Item = (PatternMeasure, f64)> {
    seams.into_iter().filter_map(|(figure, seam)| half.begins(seam).map(|_| (figure, half.sewn_length(seam))))
}

fn measure_back(half: &Half<'_>, figures: &mut Vec<(PatternMeasure, f64)>) {
    use PatternMeasure as F;
    let centre = half.at_centre();
    figures.extend(seams_of(
        half,
        [
            (F::ShoulderBack, Seam::Shoulder),
            (F::NecklineBack, Seam::Neckline),
            (F::ArmholeBack, Seam::Armhole),
        ],
    ));
    figures.extend([
        (F::SideBack, half_side_to_waist(half)),
        (F::CentreBack, centre_to_waist(half)),
        (F::BackLength, half.at_centre_waist().centre_waist().y - centre.neck_base_side().y),
    ]);
    let has_armhole = half.begins(Seam::Armhole).is_some();
    let tip = half.ends(Seam::Shoulder).filter(|_| has_armhole).map(Piece::tip);
    let to_hip = tip.zip(waist_down_to_hip(half)).map(|(tip, down)| {
        half.at_centre_waist().centre_waist().y + down - centre.neck_base_side().y.midpoint(tip.y)
    });
    figures.extend(to_hip.map(|mm| (F::BackToHip, mm)));
    if let Some(back) = half.upper() {
        // What is told from the armhole is told where there is one.
        if has_armhole {
            figures.push((F::AcrossBack, across(back) * 2.0));
            figures.push((F::ArmholeDepth, back.underarm().y - back.neck_base_top().y));
        }
        figures.extend(waist_intake(back).map(|mm| (F::WaistDartBack, mm)));
    }
    let shoulder = half.begins(Seam::Shoulder).and_then(|piece| dart_mouth(piece, DartPlace::Shoulder));
    figures.extend(shoulder.map(|mm| (F::ShoulderDart, mm)));
}

/// Down the centre from the waist to the hip line, of a half that goes on below the waist.
fn waist_down_to_hip(half: &Half<'_>) -> Option<f64> {
    let centre = half.at_centre();
    let hip = centre.level(LevelName::Hip).and_then(|level| level.points.first()).map(|point| point.y);
    let ends = || Some(centre.edges_of(Seam::Hem).last()?.curve.end().y);
    // A block ends at the hip: there its lower edge is the hip line.
    let hip = hip.or_else(|| ends().filter(|_| !centre.above_hip))?;
    centre.level(LevelName::Waist)?;
    Some(hip - centre.centre_waist().y)
}

/// Sewn side seam from the underarm to the waist, where the piece goes on below it.
pub(super) fn side_to_waist(piece: &Piece) -> f64 {
    let whole = piece.sewn_length(Seam::Side);
    let below = piece
        .level(LevelName::Waist)
        .and_then(|level| level.points.last())
        .zip(piece.edges_of(Seam::Side).last());
    below.map_or(whole, |(waist, edge)| whole - (edge.curve.length() - edge.curve.nearest(*waist)))
}

/// Sewn side seam of a half from the underarm to the waist.
fn half_side_to_waist(half: &Half<'_>) -> f64 {
    let above: f64 = half.above_band().iter().map(|piece| piece.sewn_length(Seam::Side)).sum();
    above + side_to_waist(half.at_side())
}

/// Pit or nape to the waist, where the half goes on below it.
fn centre_to_waist(half: &Half<'_>) -> f64 {
    let centre = half.at_centre();
    match centre.level(LevelName::Waist) {
        Some(_) => centre.centre_top().distance(centre.centre_waist()),
        None => half.sewn_length(centre.kind.centre()),
    }
}

/// What all waist darts of a piece take in together.
fn waist_intake(piece: &Piece) -> Option<f64> {
    let mouths =
        [DartPlace::Waist, DartPlace::WaistSide].into_iter().filter_map(|place| dart_mouth(piece, place));
    let inside = piece.two_pointed.iter().map(super::TwoPointedDart::intake);
    let all: Vec<f64> = mouths.chain(inside).collect();
    (!all.is_empty()).then(|| all.iter().sum())
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

/// The level at which across front and across back are measured: half-way down the armhole, a dart in it folded.
pub fn across_level(piece: &Piece) -> f64 {
    piece.neck_base_top().y.midpoint((folding_armhole(piece) * piece.underarm()).y)
}

fn across(piece: &Piece) -> f64 {
    let (level, folding) = (across_level(piece), folding_armhole(piece));
    let below_dart = piece.edges.iter().rposition(|edge| edge.dart == Some(DartPlace::Armhole));
    let folded =
        piece.edges.iter().enumerate().filter(|(_, edge)| edge.seam == Seam::Armhole).map(|(index, edge)| {
            match below_dart {
                Some(leg) if index > leg => edge.curve.transformed(folding),
                _ => edge.curve.clone(),
            }
        });
    let hit = |curve: Curve| curve.crossing_level(level).map(|s| curve.point_at(s).x);
    { folded }.find_map(hit).unwrap_or_else(|| piece.tip().x)
}

/// What brings the armhole below a dart in it to the part above when the dart is folded.
fn folding_armhole(piece: &Piece) -> Affine {
    let dart = piece.dart(DartPlace::Armhole).zip(piece.mouth(DartPlace::Armhole));
    dart.map_or(Affine::IDENTITY, |(dart, (upper, lower))| {
        let turn = turn_degrees(lower - dart.pivot, upper - dart.pivot).to_radians();
        Affine::rotate_about(turn, dart.pivot)
    })
}

/// The level of the waist straight below her bust point, the waist dart closed.
fn waist_below(front: &Piece, pivot: Point) -> f64 {
    let side_closed = front.mouth(DartPlace::Waist).map_or(Affine::IDENTITY, |(side, centre)| {
        Affine::rotate_about(turn_degrees(side - pivot, centre - pivot).to_radians(), pivot)
    });
    let waist: Vec<Curve> = front.edges_of(Seam::Waist).map(|edge| edge.curve.clone()).collect();
    let plumb = Line::new((pivot.x, pivot.y), (pivot.x, pivot.y + 2000.0));
    let on = |curve: &Curve| curve.crossing(plumb).map(|s| curve.point_at(s).y);
    let found = match waist.as_slice() {
        [side, centre] => on(&side.transformed(side_closed)).or_else(|| on(centre)),
        [only] => on(only),
        // Two darts: her plumb line meets the cloth between them and the centre.
        many => many.last().and_then(on),
    };
    // Below the bust point a level waist is as far down as it is at the centre.
    found.unwrap_or_else(|| front.centre_waist().y)
}
