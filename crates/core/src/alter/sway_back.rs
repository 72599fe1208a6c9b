//! Sway back: length is taken out at the centre back of the waist, fading to nothing at the side (handbook:
//! `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::folded_across::FoldedAcross;
use super::keeps::{ARMHOLES, Keeps, SIDES};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, bent, fading, reshape_start};
use crate::pattern::{Edge, LevelName, Pattern, PatternMeasure, Piece, Seam, redraw_dart};

/// A shaped centre back is led to the waist's new end over this length, in millimetres.
const CENTRE_REACH: f64 = 60.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Shorter at the waist",
    MeasuredOn::Here,
    (-20.0, 35.0),
    "How far the waist is lifted at the centre back: the fold that lies across above it. Negative lets it down.",
)];

const ABOUT: About = About {
    code: "sway_back",
    name: "Sway back",
    why: "A fold lies across the back above the waist: the back is too long there and only there.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::CentreBack],
    wants: "a sway back is taken out of a whole back: this pattern has none",
    layer: Layer::Fit,
};

/// The waist lifted at the centre back.
pub(super) struct SwayBack;

impl Alteration for SwayBack {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.back().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            ARMHOLES,
            SIDES,
            &[
                PatternMeasure::NecklineBack,
                PatternMeasure::ShoulderBack,
                PatternMeasure::Bust,
                PatternMeasure::CentreFront,
            ],
        ])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CentreBack, -args.amount())]
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let back = pattern.back()?;
        Some(Handle::new(back.kind, back.centre_waist(), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let back = pattern.back().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let by = args.amount();
        let on_level = back.level(LevelName::Waist).is_some();
        let work = if on_level {
            let fold = at_waist(back)?;
            let after = fold.risen(by);
            PieceWork::cut(back, fold.slash(by)?, after.clone(), after)
        } else {
            PieceWork::drawn(back, waist_lifted(back, by))
        };
        Ok(altered(pattern, &[work], &words(by, on_level, style)))
    }
}

fn words(by: f64, on_level: bool, style: Style) -> Vec<(StageKind, String)> {
    let amount = style.with_unit(by.abs());
    if on_level {
        let lap = if by > 0.0 { "Lap" } else { "Open" };
        return vec![
            (
                StageKind::Mark,
                "Rule along the waist from the centre back to the side seam: the hinge is there, on the stitching line."
                    .to_owned(),
            ),
            (StageKind::Cut, "Cut from the centre back to the hinge, not through it.".to_owned()),
            (StageKind::Move, format!("{lap} the cut by {amount} at the centre back, into nothing at the hinge.")),
            (
                StageKind::True,
                "Rule the centre back straight again; what that takes off or adds below the waist is given back at the side \
                 seam, which stays as it was. Draw the darts with equal legs."
                    .to_owned(),
            ),
        ];
    }
    let (lift, up) = if by > 0.0 { ("Lift", "up") } else { ("Drop", "down") };
    vec![
        (StageKind::Mark, format!("At the centre back mark {amount} {up} from the waist.")),
        (
            StageKind::Move,
            format!(
                "{lift} the waist there and draw it, with its darts folded, in one line into nothing at the side."
            ),
        ),
        (
            StageKind::True,
            "Make the legs of the darts equal again, and see that the waist leaves the centre back square."
                .to_owned(),
        ),
    ]
}

/// The waist seam lifted by g(1 − u²(3 − 2u)) at each share u of its sewn length from the centre.
fn waist_lifted(back: &Piece, by: f64) -> Piece {
    let mut after = back.clone();
    let whole = back.flat_length(Seam::Waist);
    // Travelled from the side to the centre: what lies between here and the centre.
    let mut ahead = whole;
    for (index, edge) in back.edges.iter().enumerate().filter(|(_, edge)| edge.seam == Seam::Waist) {
        let length = edge.curve.length();
        let from_centre = ahead;
        after.edges[index].curve = bent(&edge.curve, length, |s| {
            let (weight, slope) = fading((from_centre - s) / whole);
            (Vec2::new(0.0, -by * weight), Vec2::new(0.0, by * slope / whole))
        });
        ahead -= length;
    }
    let count = after.edges.len();
    for index in 0..count {
        if let Some(place) = after.edges[index].dart.filter(|place| place.seam() == Seam::Waist) {
            let (before, next) = ((index + count - 1) % count, (index + 1) % count);
            let (start, end) = (after.edges[index].curve.start(), after.edges[index].curve.end());
            let from =
                if after.edges[before].seam == Seam::Waist { after.edges[before].curve.end() } else { start };
            let to =
                if after.edges[next].seam == Seam::Waist { after.edges[next].curve.start() } else { end };
            after.edges[index] = Edge::leg(place, from, to);
        }
    }
    let waist_end = after.last_edge(Seam::Waist).map_or(Point::ZERO, |i| after.edges[i].curve.end());
    if let Some(centre) = after.first_edge(Seam::CentreBack) {
        let old = &after.edges[centre].curve;
        let rest = old.crossing_level(waist_end.y).map_or_else(
            || Curve::line(waist_end, old.start()).then(old.clone()),
            // A shaped centre back does not lie plumb below the waist's new end: it is led to it.
            |along| {
                let rest = old.split(along).1;
                reshape_start(&rest, waist_end - rest.start(), CENTRE_REACH.min(rest.length() / 2.0))
            },
        );
        after.edges[centre].curve = rest;
    }
    let darts: Vec<_> = after.darts.iter().filter(|dart| dart.place.seam() == Seam::Waist).cloned().collect();
    darts.into_iter().for_each(|dart| redraw_dart(&mut after, dart.place, dart.pivot));
    after
}

/// Along the waist level, from the centre back to the side seam.
fn at_waist(back: &Piece) -> Result<FoldedAcross<'_>, AlterError> {
    let level = back.level(LevelName::Waist).map(|level| level.points.as_slice());
    match level {
        Some([centre, .., side]) => Ok(FoldedAcross::between(back, Seam::CentreBack, *centre, *side)),
        _ => Err(AlterError::no_seam(Seam::Waist)),
    }
}
