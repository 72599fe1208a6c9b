//! One half of a skirt that is joined to a bodice: how the difference between its hip and the bodice's waist is taken in
//! (handbook: `wishes.md`, section 7).

use kurbo::Point;

use super::AlterError;
use super::ways::ways;
use crate::Style;
use crate::draft::Skirt;
use crate::pattern::{
    Covers, DartPlace, GarmentPart, Gather, Half, Notch, Pattern, Piece, PieceKind, Seam, SkirtDart,
    SkirtHalf, WAIST_DART_LIMIT,
};

/// The side edge of the skirt runs in towards the hip by this at most, in millimetres: a waist that is still wider is gathered.
const MOST_WIDER: f64 = 10.0;
/// The most that half a bodice is gathered to half a skirt, in millimetres (common practice, no source).
const MOST_GATHERED: f64 = 60.0;
/// A gather takes at least so many times its amount of the flat edge.
const FLAT_OF_GATHERS: f64 = 3.0;
/// Gathers keep so far from the ends of a waist, in millimetres.
const FROM_ENDS: f64 = 20.0;
/// A dart keeps so far from the ends of the sewn waist and from another one, in millimetres.
const DART_FROM_ENDS: f64 = 25.0;
/// The most that is gathered, as a share of the flat edge: twice as much cloth as waist.
const MOST_SHARE: f64 = 2.0 / 3.0;

ways! {
    /// How the skirt is taken in at the waist.
    TakenIn {
        /// By darts.
        Darts = "darts", "darts";
        /// Drawn in between notches.
        Gathers = "gathers", "gathers";
    }
}

/// What is asked of the skirt.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Asked {
    /// All round with its ease, in millimetres.
    pub(super) hip: f64,
    pub(super) waist_to_hip: f64,
    /// From the hip to the hem, in millimetres.
    pub(super) below_hip: f64,
    pub(super) taken_in: TakenIn,
    /// Its shares and constants.
    pub(super) method: Skirt,
}

/// A half of the skirt, straight down from the hip, and what it does to the bodice.
pub(super) struct Joined {
    pub(super) piece: Piece,
    /// The bodice's piece with its waist gathered, and by how much; none where the skirt is wide enough.
    pub(super) gathered: Option<(Piece, f64)>,
}

/// How half a skirt comes to its waist, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
struct Shares {
    /// What darts or gathers take in.
    taken_in: f64,
    /// What the bodice is gathered.
    above: f64,
}

impl Shares {
    /// Of a half with this hip width over this sewn waist, where each side edge is to take so much.
    fn of(hip_width: f64, waist: f64, side: f64, least: f64) -> Self {
        let left = hip_width - side - waist;
        if left >= least {
            return Self { taken_in: left, above: 0.0 };
        }
        // The side takes what is no dart; it runs out a little before the bodice is gathered.
        Self { taken_in: 0.0, above: (waist - hip_width - MOST_WIDER).max(0.0) }
    }
}

/// Front and back of a skirt for what is worn on one side.
pub(super) fn drafted(worn: &Pattern, asked: &Asked, style: Style) -> Result<[Joined; 2], AlterError> {
    let (front, back) =
        worn.front_half().zip(worn.back_half()).ok_or_else(|| AlterError::no_seam(Seam::Waist))?;
    let [in_front, behind] = [&front, &back].map(|half| half.sewn_length(Seam::Waist));
    let m = &asked.method;
    let side = ((asked.hip / 2.0 - in_front - behind) / m.side_divisor).min(m.side_most);
    Ok([
        half(&front, GarmentPart::JoinedSkirtFront, (in_front, side), asked, style)?,
        half(&back, GarmentPart::JoinedSkirtBack, (behind, side), asked, style)?,
    ])
}

/// Half a skirt on a half of the bodice that is sewn to so much; each side edge is to take so much.
fn half(
    half: &Half<'_>,
    part: GarmentPart,
    (waist, side): (f64, f64),
    asked: &Asked,
    style: Style,
) -> Result<Joined, AlterError> {
    let m = &asked.method;
    let kind = PieceKind::of(part);
    let is_front = kind.covers() == Covers::Front;
    let quarter = asked.hip / 4.0;
    let hip_width = if is_front { quarter + m.front_share } else { quarter - m.front_share };
    let Shares { taken_in, above } = Shares::of(hip_width, waist, side, m.least_dart);
    let gathered = if above > 0.0 { Some((gathered(half, above, style)?, above)) } else { None };
    let is_gathered = asked.taken_in == TakenIn::Gathers && taken_in > 0.0;
    let darts =
        if is_gathered { Vec::new() } else { darts(half, m.darts(kind.covers(), taken_in), waist, style)? };
    let sewn = waist - above;
    let skirt = SkirtHalf {
        kind,
        centre: if is_front { Point::ZERO } else { Point::new(0.0, m.back_lowered) },
        hip_width,
        waist: if is_gathered { sewn + taken_in } else { sewn },
        waist_to_hip: asked.waist_to_hip,
        side_raised: m.side_raised,
        darts,
    };
    let solved = skirt.solved().ok_or_else(|| {
        AlterError::not_here(format!(
            "a {} waist of {} and a hip of {} all round cannot be joined over {}: look at hip and waist to hip",
            half.name(),
            style.with_unit(waist),
            style.with_unit(asked.hip),
            style.with_unit(asked.waist_to_hip)
        ))
    })?;
    let mut piece = skirt.piece(&solved, asked.below_hip, &[]);
    if is_gathered {
        let flat = piece.flat_length(Seam::Waist);
        if taken_in > flat * MOST_SHARE {
            return Err(AlterError::not_here(format!(
                "{} gathered to a {} waist of {} is more than twice as much cloth again: less ease at the hip",
                style.with_unit(flat),
                half.name(),
                style.with_unit(sewn)
            )));
        }
        draw_in(&mut piece, FROM_ENDS, flat - 2.0 * FROM_ENDS, taken_in);
    }
    if let Some((bodice, _)) = &gathered {
        // The skirt is notched where the bodice's gathers end.
        let ends =
            bodice.gathers.last().map(|gather| [gather.from_underarm, gather.from_underarm + gather.flat]);
        let at = |flat: f64| notch(bodice.sewn_before(Seam::Waist, flat));
        piece.notches.extend(ends.into_iter().flatten().map(at));
    }
    Ok(Joined { piece, gathered })
}

/// The darts of half a skirt, each below one of the bodice's where that has room for it.
fn darts(
    half: &Half<'_>,
    mut darts: Vec<SkirtDart>,
    waist: f64,
    style: Style,
) -> Result<Vec<SkirtDart>, AlterError> {
    let Some(mouth) = darts.first().map(|dart| dart.mouth) else { return Ok(darts) };
    if mouth > WAIST_DART_LIMIT {
        return Err(AlterError::not_here(format!(
            "each of two darts on the {} would take in {}, above the {} that sew flat: gather the skirt, or less ease at the hip",
            half.name(),
            style.with_unit(mouth),
            style.with_unit(WAIST_DART_LIMIT)
        )));
    }
    let below = below_darts(&darts_from_centre(half), (darts.len(), mouth), waist);
    for (dart, from_centre) in darts.iter_mut().zip(below.into_iter().flatten()) {
        dart.from_centre = Some(from_centre);
    }
    Ok(darts)
}

/// Where so many darts lie on a sewn waist, told from the centre: each below one of the bodice's; the first of two below its only
/// one, the other half-way on to the side. `None` where they would come too near to each other or to an end.
fn below_darts(above: &[f64], (count, mouth): (usize, f64), waist: f64) -> Option<Vec<f64>> {
    let places = match *above {
        [only] if count == 2 => vec![only, only.midpoint(waist)],
        _ if above.len() == count => above.to_vec(),
        _ => return None,
    };
    let ends = std::iter::once(0.0).chain(places.iter().copied()).chain([waist]).collect::<Vec<_>>();
    ends.windows(2).all(|pair| pair[1] - pair[0] >= DART_FROM_ENDS.max(mouth)).then_some(places)
}

/// How much of a bodice's sewn waist lies between the centre and each of its darts or seams, in millimetres.
fn darts_from_centre(half: &Half<'_>) -> Vec<f64> {
    let mut all = Vec::new();
    let mut sewn = 0.0;
    let pieces: Vec<&Piece> = match half.panels().filter(|_| half.band().is_none()) {
        Some((centre, side)) => vec![centre, side],
        None => vec![half.at_centre_waist()],
    };
    for (index, piece) in pieces.iter().enumerate() {
        if index > 0 {
            all.push(sewn);
        }
        // The waist of a bodice is travelled from the side to the centre: a dart's second leg comes first this way.
        let mut open = None;
        for edge in piece.edges.iter().rev() {
            match edge.dart {
                Some(place @ (DartPlace::Waist | DartPlace::WaistSide)) if open != Some(place) => {
                    all.push(sewn);
                    open = Some(place);
                }
                _ if edge.seam == Seam::Waist => sewn += edge.curve.length(),
                _ => {}
            }
        }
    }
    all
}

/// The bodice's piece with so much of its waist drawn in, about its dart or its middle.
fn gathered(half: &Half<'_>, amount: f64, style: Style) -> Result<Piece, AlterError> {
    let too_wide = |why: &str| {
        AlterError::not_here(format!(
            "the waist of the {} is {} wider than the skirt even without darts{why}: more ease at the hip, or take the waist in first",
            half.name(),
            style.with_unit(amount)
        ))
    };
    if amount > MOST_GATHERED {
        return Err(too_wide(&format!(", and at most {} is gathered", style.with_unit(MOST_GATHERED))));
    }
    if half.panels().is_some() && half.band().is_none() {
        return Err(too_wide(", and panels are not gathered"));
    }
    let piece = half.at_centre_waist();
    let whole = piece.flat_length(Seam::Waist);
    let flat = amount * FLAT_OF_GATHERS;
    if flat > whole - 2.0 * FROM_ENDS {
        return Err(too_wide(""));
    }
    let dart = darts_from_centre(half).first().map_or(whole / 2.0, |from_centre| whole - from_centre);
    let from = (dart - flat / 2.0).clamp(FROM_ENDS, whole - FROM_ENDS - flat);
    let mut gathered = piece.clone();
    draw_in(&mut gathered, from, flat, amount);
    Ok(gathered)
}

/// Draws in a stretch of the waist, from the side, between two notches.
fn draw_in(piece: &mut Piece, from_underarm: f64, flat: f64, amount: f64) {
    piece.gathers.push(Gather { seam: Seam::Waist, from_underarm, flat, amount });
    piece.notches.extend([from_underarm, from_underarm + flat].map(notch));
}

fn notch(from_underarm: f64) -> Notch {
    Notch { seam: Seam::Waist, from_underarm, double: false }
}
