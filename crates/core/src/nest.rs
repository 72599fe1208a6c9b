//! The nest: tracing a master between its sizes.
//!
//! Every named point has one position a size; between two sizes positions are interpolated by the chosen girth,
//! outside the range a trace is refused. Then the shoulder is set to hers. The master stays as it was.

use kurbo::{PathSeg, Point};
use serde::{Deserialize, Serialize};

use crate::alter::{AlterError, Amounts, alteration, apply};
use crate::body::Body;
use crate::compare::BlockSize;
use crate::geometry::{Curve, Pt};
use crate::pattern::{Pattern, PatternMeasure, Piece, PieceKind, back_off_points, measure};
use crate::{Length, Style};

/// The girth a trace follows.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum TraceBy {
    /// Her upper bust against the sizes' upper bust: the frame fits.
    #[default]
    UpperBust,
    /// Her bust against the sizes' bust.
    Bust,
    /// Her hip against the sizes' hip: what a skirt is traced by.
    Hip,
}

impl TraceBy {
    /// The reading's code.
    pub const fn code(self) -> &'static str {
        match self {
            Self::UpperBust => "upper_bust_girth",
            Self::Bust => "bust_girth",
            Self::Hip => "hip_girth",
        }
    }

    /// The reading's name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::UpperBust => "upper bust",
            Self::Bust => "bust",
            Self::Hip => "hip",
        }
    }
}

/// A dot of the nest: where a corner of a size lies.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TraceDot {
    /// The piece it is on.
    pub piece: PieceKind,
    /// The size it belongs to.
    pub size: String,
    /// Where.
    pub at: Pt,
    /// Whether the trace passed by it: the sizes to either side. The others are crossed out.
    pub used: bool,
}

/// A traced pattern.
#[derive(Clone, Debug, PartialEq)]
pub struct Traced {
    /// The net pattern at her figure.
    pub pattern: Pattern,
    /// The house figure between the sizes, as far as both sizes know it.
    pub figure: Body,
    /// Every corner of every size.
    pub dots: Vec<TraceDot>,
    /// Lines from dot to dot over the sizes, as SVG path data, by piece.
    pub lines: Vec<(PieceKind, String)>,
    /// What was done, in a sentence.
    pub says: String,
    /// How far the shoulder was set out or in, in millimetres.
    pub shoulder: f64,
}

/// Why a nest cannot be traced.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum NestError {
    /// No size to begin with.
    #[error("this block has no drawn sizes to trace")]
    Empty,
    /// The sizes do not state the girth.
    #[error("size {size} does not say for what {girth} it was drafted: trace by the other girth")]
    Unstated {
        /// The size's name.
        size: String,
        /// The girth's name.
        girth: &'static str,
    },
    /// Outside the nest: what was asked, and where it ends.
    #[error("{0}")]
    Outside(String),
    /// The two sizes are not drawn alike.
    #[error("sizes {one} and {other} are not drawn alike ({why}): trace at one of them")]
    Unlike {
        /// The smaller size.
        one: String,
        /// The larger.
        other: String,
        /// What differs.
        why: String,
    },
    /// The shoulder cannot be set to hers.
    #[error("the shoulder cannot be set to hers: {0}")]
    Shoulder(AlterError),
}

/// Traces a nest at a girth, in millimetres; `shoulder` is her shoulder length where it is to be set.
///
/// # Errors
///
/// [`NestError`] naming what is in the way.
pub fn trace(
    sizes: &[BlockSize],
    by: TraceBy,
    girth: f64,
    shoulder: Option<f64>,
    style: Style,
) -> Result<Traced, NestError> {
    let nest = nest_of(sizes, by)?;
    let (first, last) = match (nest.first(), nest.last()) {
        (Some(first), Some(last)) => (first, last),
        _ => return Err(NestError::Empty),
    };
    // A hair outside is a rounding, not another size.
    if girth < first.girth - 0.05 || girth > last.girth + 0.05 {
        // Two that a tape reads alike are told apart by their decimals.
        let alike = [first, last].iter().any(|end| style.with_unit(end.girth) == style.with_unit(girth));
        let unit = style.unit().suffix();
        let write = |mm: f64| {
            if alike { format!("{} {unit}", style.exact(mm)) } else { style.with_unit(mm) }
        };
        let end = |size: &NestSize<'_>| format!("{} ({})", write(size.girth), size.size.label);
        return Err(NestError::Outside(format!(
            "{} lies outside the nest, which goes from {} to {} by {}: draft a block for her instead, or a further size",
            write(girth),
            end(first),
            end(last),
            by.name()
        )));
    }
    let upper = nest.iter().position(|each| each.girth >= girth - 1e-9).unwrap_or(nest.len() - 1);
    let lower = if nest[upper].girth - girth < 1e-9 { upper } else { upper.saturating_sub(1) };
    let (one, other) = (&nest[lower], &nest[upper]);
    let share = if lower == upper { 0.0 } else { (girth - one.girth) / (other.girth - one.girth) };
    let mut pattern = if lower == upper {
        one.pattern.clone()
    } else {
        between(one.pattern, other.pattern, share).map_err(|why| NestError::Unlike {
            one: one.size.label.clone(),
            other: other.size.label.clone(),
            why,
        })?
    };
    let drafted = measure(&pattern).get(PatternMeasure::ShoulderFront);
    let set_by = shoulder.zip(drafted).map_or(0.0, |(hers, ours)| hers - ours);
    if set_by.abs() > 0.05
        && let Some(alteration) = alteration("shoulder_length")
    {
        let set =
            apply(alteration, &pattern, &Amounts::of(set_by), None, style).map_err(NestError::Shoulder)?;
        pattern = set.pattern;
    }
    let used = [lower, upper];
    Ok(Traced {
        dots: dots(&nest, &used),
        lines: lines(&nest),
        figure: figure_between(&one.size.figure, &other.size.figure, share).with(by.code(), girth),
        says: says(one, other, share, by, girth, set_by, style),
        shoulder: set_by,
        pattern: pattern.as_drafted(),
    })
}

struct NestSize<'a> {
    girth: f64,
    size: &'a BlockSize,
    pattern: &'a Pattern,
}

fn nest_of(sizes: &[BlockSize], by: TraceBy) -> Result<Vec<NestSize<'_>>, NestError> {
    let mut nest = Vec::new();
    for size in sizes {
        let Some(pattern) = size.pattern() else { continue };
        let girth = size
            .figure
            .get(by.code())
            .ok_or_else(|| NestError::Unstated { size: size.label.clone(), girth: by.name() })?;
        nest.push(NestSize { girth, size, pattern });
    }
    nest.sort_by(|a, b| a.girth.total_cmp(&b.girth));
    Ok(nest)
}

fn says(
    one: &NestSize<'_>,
    other: &NestSize<'_>,
    share: f64,
    by: TraceBy,
    girth: f64,
    set_by: f64,
    style: Style,
) -> String {
    let girth = style.with_unit(girth);
    let at = if share == 0.0 {
        format!("Traced at size {}, {} {girth}.", one.size.label, by.name())
    } else {
        format!(
            "Traced between {} and {}, {:.0} of 100 of the way, at {} {girth}.",
            one.size.label,
            other.size.label,
            share * 100.0,
            by.name()
        )
    };
    let amount = style.with_unit(Length::from_mm(set_by.abs()).mm());
    match set_by {
        by if by > 0.05 => format!("{at} Shoulder set out by {amount} to hers."),
        by if by < -0.05 => format!("{at} Shoulder set in by {amount} to hers."),
        _ => at,
    }
}

fn mix(a: Point, b: Point, share: f64) -> Point {
    a.lerp(b, share)
}

fn mix_curve(a: &Curve, b: &Curve, share: f64) -> Option<Curve> {
    let (one, other) = (a.segments(), b.segments());
    (one.len() == other.len()).then_some(())?;
    let mut mixed: Option<Curve> = None;
    for (a, b) in one.iter().zip(other) {
        let next = match (a, b) {
            (PathSeg::Line(a), PathSeg::Line(b)) => {
                Curve::line(mix(a.p0, b.p0, share), mix(a.p1, b.p1, share))
            }
            _ => {
                let (a, b) = (a.to_cubic(), b.to_cubic());
                Curve::cubic(
                    mix(a.p0, b.p0, share),
                    mix(a.p1, b.p1, share),
                    mix(a.p2, b.p2, share),
                    mix(a.p3, b.p3, share),
                )
            }
        };
        mixed = Some(match mixed {
            Some(curve) => curve.then(next),
            None => next,
        });
    }
    mixed
}

fn between(one: &Pattern, other: &Pattern, share: f64) -> Result<Pattern, String> {
    let mut pattern = one.clone();
    for piece in &mut pattern.pieces {
        let kind = piece.kind;
        let beside = other.piece(kind).ok_or_else(|| format!("no {} in one", kind.name().to_lowercase()))?;
        *piece = piece_between(piece, beside, share)?;
    }
    if one.pieces.len() == other.pieces.len() { Ok(pattern) } else { Err("a piece more in one".to_owned()) }
}

fn piece_between(one: &Piece, other: &Piece, share: f64) -> Result<Piece, String> {
    let name = one.kind.name().to_lowercase();
    let same_edges = one.edges.len() == other.edges.len()
        && one.edges.iter().zip(&other.edges).all(|(a, b)| a.seam == b.seam && a.dart == b.dart);
    if !same_edges || one.darts.len() != other.darts.len() || one.two_pointed.len() != other.two_pointed.len()
    {
        return Err(format!("the {name} has a dart more in one"));
    }
    let mut piece = one.clone();
    for (edge, beside) in piece.edges.iter_mut().zip(&other.edges) {
        edge.curve = mix_curve(&edge.curve, &beside.curve, share)
            .ok_or_else(|| format!("the {} of the {name} is drawn in other parts", edge.seam.name()))?;
    }
    for (dart, beside) in piece.darts.iter_mut().zip(&other.darts) {
        dart.pivot = mix(dart.pivot, beside.pivot, share);
    }
    for (dart, beside) in piece.two_pointed.iter_mut().zip(&other.two_pointed) {
        for (point, beside) in [
            (&mut dart.upper, beside.upper),
            (&mut dart.lower, beside.lower),
            (&mut dart.first, beside.first),
            (&mut dart.second, beside.second),
            (&mut dart.point, beside.point),
        ] {
            *point = mix(*point, beside, share);
        }
    }
    for (level, beside) in piece.levels.iter_mut().zip(&other.levels) {
        for (point, beside) in level.points.iter_mut().zip(&beside.points) {
            *point = mix(*point, *beside, share);
        }
    }
    for (notch, beside) in piece.notches.iter_mut().zip(&other.notches) {
        notch.from_underarm += (beside.from_underarm - notch.from_underarm) * share;
    }
    piece.grain = (mix(one.grain.0, other.grain.0, share), mix(one.grain.1, other.grain.1, share));
    back_off_points(&mut piece);
    Ok(piece)
}

fn figure_between(one: &Body, other: &Body, share: f64) -> Body {
    one.iter()
        .filter_map(|(code, mm)| Some((code.to_owned(), mm + (other.get(code)? - mm) * share)))
        .collect()
}

/// Corners of a piece, and the pivots of its darts.
fn corners(piece: &Piece) -> Vec<Point> {
    piece.edges.iter().map(|edge| edge.curve.start()).collect()
}

fn dots(nest: &[NestSize<'_>], used: &[usize]) -> Vec<TraceDot> {
    let of_size = |(index, each): (usize, &NestSize<'_>)| {
        let size = each.size.label.clone();
        let used = used.contains(&index);
        let dots = each.pattern.pieces.iter().flat_map(move |piece| {
            let size = size.clone();
            let kind = piece.kind;
            corners(piece)
                .into_iter()
                .map(move |at| TraceDot { piece: kind, size: size.clone(), at: at.into(), used })
                .collect::<Vec<_>>()
        });
        dots.collect::<Vec<_>>()
    };
    nest.iter().enumerate().flat_map(of_size).collect()
}

/// From each corner of the smallest size over all sizes that are drawn alike.
fn lines(nest: &[NestSize<'_>]) -> Vec<(PieceKind, String)> {
    let Some(first) = nest.first() else { return Vec::new() };
    let mut lines = Vec::new();
    for piece in &first.pattern.pieces {
        let count = corners(piece).len();
        let all: Vec<Vec<Point>> = nest
            .iter()
            .filter_map(|each| each.pattern.piece(piece.kind).map(corners))
            .filter(|corners| corners.len() == count)
            .collect();
        for corner in 0..count {
            let points: Vec<Point> = all.iter().map(|corners| corners[corner]).collect();
            let path = Curve::polyline(&points).filter(|curve| curve.length() > 0.5);
            lines.extend(path.map(|curve| (piece.kind, crate::geometry::short_svg(&curve.to_path()))));
        }
    }
    lines
}
