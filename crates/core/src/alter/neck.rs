//! Neck: wider or narrower along the shoulder, deeper or higher at the centre (handbook: `alterations.md`,
//! section 2).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, GIRTHS, Keeps, SIDES};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, reshape_ends};
use crate::pattern::{Edge, Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 3] = [
    Param::amount(
        "Deeper in front",
        MeasuredOn::Here,
        (-10.0, 80.0),
        "How far the neckline drops at the centre front. Negative raises it, never above the neck base.",
    ),
    Param::place(
        "width",
        "Wider at the shoulder",
        (-8.0, 50.0),
        Some(0.0),
        "How far the neck side moves out along the shoulder, front and back alike.",
    ),
    Param::place(
        "behind",
        "Deeper behind",
        (-6.0, 60.0),
        Some(0.0),
        "How far the neckline drops at the centre back.",
    ),
];

const ABOUT: About = About {
    code: "neck",
    name: "Neckline",
    why: "The neckline chokes or stands off, or the style wants it lower or wider.",
    params: &PARAMS,
    seams: &[Seam::Neckline],
    wants: "the neckline is drawn on a whole front and back without neck darts or corners: this pattern lacks one of them; a wished neckline with corners is changed in its own step",
    layer: Layer::Fit,
};

/// What it is told, in millimetres.
struct Params {
    /// At centre front.
    deeper: f64,
    /// Along the shoulder.
    wider: f64,
    /// At centre back.
    behind: f64,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self { deeper: args.amount(), wider: args.of("width"), behind: args.of("behind") }
    }
}

/// The neckline wider and deeper.
pub(super) struct Neck;

impl Alteration for Neck {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn goes_on_from(&self, _: &Args<'_>) -> Option<&'static str> {
        Some("neckline")
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let plain =
            |piece: Option<&Piece>| piece.is_some_and(|piece| piece.edges_of(Seam::Neckline).count() == 1);
        plain(pattern.front()) && plain(pattern.back())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[ARMHOLES, SIDES, GIRTHS])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        let Params { deeper, wider, behind } = Params::of(args);
        vec![
            (PatternMeasure::CentreFront, -deeper),
            (PatternMeasure::CentreBack, -behind),
            (PatternMeasure::ShoulderFront, -wider),
            (PatternMeasure::ShoulderBack, -wider),
        ]
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        let Params { deeper, wider, behind } = Params::of(args);
        [deeper, wider, behind] == [0.0; 3]
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.centre_top(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let Params { deeper, wider, behind } = Params::of(args);
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let works = [
            PieceWork::drawn(front, redrawn(front, wider, deeper)?),
            PieceWork::drawn(back, redrawn(back, wider, behind)?),
        ];
        let in_words = |mm: f64, more: &str, less: &str| {
            if style.is_alike(mm, 0.0) {
                return "as it is".to_owned();
            }
            format!("{} {}", style.with_unit(mm.abs()), if mm < 0.0 { less } else { more })
        };
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Mark the neck side {} along the shoulder, the pit {} and the nape {}.",
                    in_words(wider, "out", "in"),
                    in_words(deeper, "down", "up"),
                    in_words(behind, "down", "up")
                ),
            ),
            (
                StageKind::Move,
                "Draw the neckline through the marks, square to the centre and to the shoulder.".to_owned(),
            ),
            (StageKind::True, "Lay the shoulders together: the neckline runs on over them.".to_owned()),
        ];
        let done = altered(pattern, &works, &words);
        Ok(if [deeper, wider, behind].iter().any(|mm| *mm < 0.0) {
            done.and(FollowUp::reminder(
                "A neckline never lies inside the base of her neck: hold it against her own.",
            ))
        } else {
            done
        })
    }
}

fn redrawn(piece: &Piece, wider: f64, deeper: f64) -> Result<Piece, AlterError> {
    let neckline = piece.first_edge(Seam::Neckline).ok_or_else(|| AlterError::no_seam(Seam::Neckline))?;
    let shoulder = piece.first_edge(Seam::Shoulder).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let (old, line) = (&piece.edges[neckline].curve, &piece.edges[shoulder].curve);
    if wider > line.length() - 20.0 {
        return Err(AlterError::not_here("so wide a neckline would use up the shoulder, or reach its dart"));
    }
    let out = line.start_direction() * wider;
    let (centre, drop) = centre_cut(piece, deeper);
    let mut after = piece.clone();
    after.edges[neckline].curve = reshape_ends(old, drop, out);
    let start = after.edges[neckline].curve.end();
    after.edges[shoulder] = Edge::sewn(Seam::Shoulder, Curve::line(start, line.end()));
    if let (Some(last), Some(centre)) = (after.edges.last_mut(), centre) {
        last.curve = centre;
    }
    Ok(after)
}

/// The centre line cut off or drawn on by so much at its top, and how its top moved.
fn centre_cut(piece: &Piece, deeper: f64) -> (Option<Curve>, Vec2) {
    let Some(line) = piece.edges.last().map(|edge| edge.curve.clone()) else { return (None, Vec2::ZERO) };
    let top = line.end();
    let cut = if deeper == 0.0 {
        line
    } else if deeper > 0.0 {
        line.split(line.length() - deeper).0
    } else {
        let end = top - line.end_direction() * deeper;
        if line.is_line() { Curve::line(line.start(), end) } else { line.then(Curve::line(top, end)) }
    };
    let drop = cut.end() - top;
    (Some(cut), drop)
}
