//! Neck forward: the whole neckline moves to the front by a wedge at the shoulder, nothing at its tip (handbook: `fitting.md`,
//! section 3).

use kurbo::{Point, Vec2};

use super::keeps::{ARMHOLES, GIRTHS, Keeps, SHOULDERS, SIDES};
use super::until_trued::until_trued;
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, reshape_ends};
use crate::pattern::{Pattern, PatternMeasure, Piece, Seam, redraw_shoulder_from, true_neck_side, true_tip};

/// The neck side is looked for so far along the level either way, in millimetres.
const SEARCHED: f64 = 25.0;

/// The neckline arrives square at the turned shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;
/// The armhole likewise.
const TIP_REACH: f64 = 30.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Forward",
    MeasuredOn::Here,
    (-15.0, 20.0),
    "How far the neckline comes forward: the wedge at the neck side, from the front to the back. Negative takes it back.",
)];

const ABOUT: About = About {
    code: "neck_forward",
    name: "Neck forward",
    why: "Her neck stands before the neckline: the seam sits back, and cloth crowds at the collar bones.",
    params: &PARAMS,
    seams: &[Seam::Neckline, Seam::Shoulder],
    wants: "the neckline is moved on a whole front and back with one neckline each: this pattern has none",
    layer: Layer::Fit,
};

/// The neckline moved to the front.
pub(super) struct NeckForward;

impl Alteration for NeckForward {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn goes_on_from(&self, _: &Args<'_>) -> Option<&'static str> {
        Some("neckline")
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let plain = |piece: Option<&Piece>| {
            piece.is_some_and(|piece| {
                piece.edges_of(Seam::Neckline).count() == 1 && piece.first_edge(Seam::Shoulder).is_some()
            })
        };
        plain(pattern.front()) && plain(pattern.back())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[SIDES, GIRTHS, SHOULDERS]).within(0.7, &[ARMHOLES])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CentreFront, -args.amount()), (PatternMeasure::CentreBack, args.amount())]
    }

    fn drawn_from(&self) -> f64 {
        // The corners at the shoulder are drawn anew.
        1.0
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.centre_top(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let works = [(front, by), (back, -by)].map(|(piece, by)| {
            let drawn = neckline_down(piece, by)?;
            Ok(PieceWork::drawn_and_trued(piece, drawn.clone(), squared(drawn)))
        });
        let works = works.into_iter().collect::<Result<Vec<_>, AlterError>>()?;
        let amount = style.with_unit(by.abs());
        let (lower, higher) = if by > 0.0 { ("front", "back") } else { ("back", "front") };
        let words = [
            (
                StageKind::Mark,
                format!("On the {lower} mark neck side and centre {amount} lower, on the {higher} {amount} higher."),
            ),
            (
                StageKind::Move,
                "Trace the neckline through the marks as it is; rule the shoulders from the new neck side to the tip, the dart \
                 folded, as long as before."
                    .to_owned(),
            ),
            (
                StageKind::True,
                "Lay the shoulders together: the neckline runs on over them, square to the centre.".to_owned(),
            ),
        ];
        let done = altered(pattern, &works, &words);
        Ok(done.and(FollowUp::reminder("Facing and collar follow the neckline: as long, but moved forward.")))
    }
}

/// The neckline moved straight down by so much, in millimetres, and the shoulder ruled to its tip as long as before: the neck
/// side goes in or out along the level until it is.
fn neckline_down(piece: &Piece, by: f64) -> Result<Piece, AlterError> {
    let wanted = piece.sewn_length(Seam::Shoulder);
    let drawn = |out: f64| moved(piece, by, out);
    let out = until_trued((-SEARCHED, SEARCHED), wanted, drawn, |piece| piece.sewn_length(Seam::Shoulder));
    let out =
        out.ok_or_else(|| AlterError::not_here("so steep a shoulder cannot be drawn: a smaller amount"))?;
    drawn(out)
}

fn moved(piece: &Piece, by: f64, out: f64) -> Result<Piece, AlterError> {
    let neckline = piece.first_edge(Seam::Neckline).ok_or_else(|| AlterError::no_seam(Seam::Neckline))?;
    let shoulder = piece.first_edge(Seam::Shoulder).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let down = Vec2::new(0.0, by);
    let mut after = piece.clone();
    after.edges[neckline].curve =
        reshape_ends(&piece.edges[neckline].curve, down, down + Vec2::new(out, 0.0));
    let neck_side: Point = after.edges[neckline].curve.end();
    let line = &piece.edges[shoulder].curve;
    // As far as the dart, or to the tip.
    after.edges[shoulder].curve = Curve::line(neck_side, line.end());
    redraw_shoulder_from(&mut after, piece);
    let top = after.edges[neckline].curve.start();
    if let Some(centre) = after.edges.last_mut() {
        centre.curve = up_to(&centre.curve, top);
    }
    Ok(after)
}

fn squared(mut piece: Piece) -> Piece {
    true_neck_side(&mut piece, NECK_REACH);
    true_tip(&mut piece, TIP_REACH);
    piece
}

/// A centre line cut off, or drawn on, to its new top.
fn up_to(line: &Curve, top: Point) -> Curve {
    if line.is_line() {
        return Curve::line(line.start(), top);
    }
    match line.crossing_level(top.y) {
        Some(along) => line.split(along).0.with_end(top),
        None => line.clone().then(Curve::line(line.end(), top)),
    }
}
