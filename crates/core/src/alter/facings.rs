//! Facings: pieces that lie against a neckline, the armholes or an upper edge, drafted from the finished edge (handbook:
//! `wishes.md`, section 8). They come last, so that they are drafted again whenever anything before them changes the edge.

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Half, NoFacing, Pattern, Piece, Seam, facing, facing_in_one};
use crate::sentence::capitalised;

/// Where a facing ends on a seam, at least so much of it is left beyond, in millimetres.
const LEAST_LEFT: f64 = 20.0;
/// Lengths nearer than this are one, in millimetres.
const SAME: f64 = 1e-3;
/// A facing is at least so wide, in millimetres (common practice, no source).
const LEAST: f64 = 30.0;

ways! {
    /// The edge that is faced.
    At {
        /// Round the neck.
        Neckline = "neckline", "neckline";
        /// Where there is no sleeve.
        Armholes = "armholes", "armholes";
        /// Without shoulders.
        UpperEdge = "upper_edge", "upper edge";
        /// Round the neck and where there is no sleeve, with the shoulder between.
        InOne = "in_one", "neckline and armholes, in one";
    }
}

impl At {
    const fn seams(self) -> &'static [Seam] {
        match self {
            Self::Neckline => &[Seam::Neckline],
            Self::Armholes => &[Seam::Armhole],
            Self::UpperEdge => &[Seam::UpperEdge],
            Self::InOne => &[Seam::Neckline, Seam::Armhole],
        }
    }

    /// The edge it begins on.
    const fn seam(self) -> Seam {
        self.seams()[0]
    }

    /// The words for its edges.
    fn name(self) -> String {
        let names: Vec<&str> = self.seams().iter().map(|seam| seam.name()).collect();
        names.join(" and ")
    }

    /// The seams that it ends on, besides the centre.
    const fn ends_on(self) -> &'static [Seam] {
        match self {
            Self::Neckline => &[Seam::Shoulder],
            Self::Armholes => &[Seam::Shoulder, Seam::Side],
            Self::UpperEdge | Self::InOne => &[Seam::Side],
        }
    }
}

const PARAMS: [Param; 2] = [
    Param::size("Width", (0.0, 120.0), "How far they reach into the piece from the edge: usually 60 mm."),
    Param {
        told_where_chosen: true,
        ..Param::way("edge", "At the", At::WAYS, "The edge they lie against, front and back.")
    },
];

const ABOUT: About = About {
    code: "facings",
    name: "Facings",
    why: "An edge is faced: pieces of the same shape are cut once more and turned in. They follow the edge as it is at the end.",
    params: &PARAMS,
    seams: &[Seam::Neckline, Seam::Armhole, Seam::UpperEdge],
    wants: "facings lie against a neckline, an armhole or an upper edge of a front and a back: this pattern has none, or all are \
            faced already",
    layer: Layer::Finish,
};

/// Facings of front and back.
pub(super) struct Facings;

impl Alteration for Facings {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        At::ALL.iter().any(|at| can_be_faced(pattern, *at))
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let at: At = args.choice("edge");
        let half = pattern.front_half()?;
        let piece = half.begins(at.seam())?;
        let edge = piece.edges_of(at.seam()).next()?;
        Some(Handle::new(piece.kind, edge.curve.start(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (wide, at): (f64, At) = (args.amount(), args.choice("edge"));
        if !can_be_faced(pattern, at) {
            return Err(AlterError::not_here(format!(
                "this pattern has no {} in front and behind, or it is faced already",
                at.name()
            )));
        }
        if wide < LEAST {
            return Err(AlterError::not_here(format!(
                "a facing is at least {} wide, not {}",
                style.with_unit(LEAST),
                style.with_unit(wide)
            )));
        }
        let halves = pattern.front_half().zip(pattern.back_half());
        let (front, back) = halves.ok_or_else(|| AlterError::not_here(self.wants()))?;
        let made: Vec<Piece> = [&front, &back]
            .into_iter()
            .map(|half| {
                beside_the_other(pattern, half, (at, wide), style)?;
                faced(half, at, wide, style)
            })
            .collect::<Result<_, _>>()?;
        let works: Vec<PieceWork> = [&front, &back]
            .into_iter()
            .zip(&made)
            .filter_map(|(half, facing)| {
                let piece = half.begins(at.seam())?;
                let outer = facing.edges_of(Seam::FacingEdge).next()?;
                Some(PieceWork::drawn(piece, piece.clone()).with_curve(&outer.curve))
            })
            .collect();
        let words = words(at, wide, style);
        let names: Vec<String> = made.iter().map(|piece| piece.kind.name().to_lowercase()).collect();
        let mut done = altered(pattern, &works, &words);
        done.work.became.clone_from(&made);
        done.pattern.pieces.extend(made);
        done.taped = done.pattern.clone();
        Ok(done.and(FollowUp::reminder(format!(
            "{} are drafted from the edge as it is now, and again whenever a step before them changes it. Interface them.",
            capitalised(&names.join(" and "))
        ))))
    }
}

/// Whether front and back have the edge, and no facing of it yet.
fn can_be_faced(pattern: &Pattern, at: At) -> bool {
    let has = |half: Option<Half<'_>>, seam| half.is_some_and(|half| half.begins(seam).is_some());
    let is_free = |seam: &Seam| {
        !pattern.is_faced(*seam) && has(pattern.front_half(), *seam) && has(pattern.back_half(), *seam)
    };
    at.seams().iter().all(is_free)
}

/// On one shoulder the facings of neckline and armhole lie beside each other.
fn beside_the_other(
    pattern: &Pattern,
    half: &Half<'_>,
    (at, wide): (At, f64),
    style: Style,
) -> Result<(), AlterError> {
    let is_other = |piece: &&Piece| {
        let kind = piece.kind;
        kind.is_facing()
            && kind.covers() == half.at_centre().kind.covers()
            && piece.first_edge(at.seam()).is_none()
    };
    let taken: f64 =
        pattern.pieces.iter().filter(is_other).map(|piece| piece.flat_length(Seam::Shoulder)).sum();
    let left = half.sewn_length(Seam::Shoulder) - taken;
    if !at.ends_on().contains(&Seam::Shoulder) || taken == 0.0 || wide <= left + SAME {
        return Ok(());
    }
    Err(AlterError::not_here(format!(
        "on the {}'s shoulder the facings of neckline and armhole would lie over each other: at most {}, or a narrower other one",
        half.name(),
        style.greatest_mark(left.max(0.0))
    )))
}

/// The facing of one half.
fn faced(half: &Half<'_>, at: At, wide: f64, style: Style) -> Result<Piece, AlterError> {
    let seam = at.seam();
    let (unit, which) = (|mm: f64| style.with_unit(mm), half.name());
    let too_wide = |at: Seam, most: f64| {
        let or = if at == Seam::Shoulder { ", or neckline and armholes in one" } else { "" };
        AlterError::not_here(format!(
            "on the {which} a facing {} wide leaves less than {} of the {}: at most {}{or}",
            unit(wide),
            unit(LEAST_LEFT),
            at.name(),
            style.greatest_mark(most)
        ))
    };
    for at in at.ends_on() {
        let long = half.sewn_length(*at);
        if long < wide + LEAST_LEFT - SAME {
            return Err(too_wide(*at, (long - LEAST_LEFT).max(0.0)));
        }
    }
    let made = if at == At::InOne { facing_in_one(half, wide) } else { facing(half, seam, wide) };
    made.map_err(|why| match why {
        NoFacing::NoEdge => AlterError::no_seam(seam),
        NoFacing::Apart => AlterError::not_here(format!(
            "on the {which} neckline and armhole lie so far apart that facings {} wide do not meet: a facing of each, or a wider one \
             in one",
            unit(wide)
        )),
        NoFacing::Short(at, long) => AlterError::not_here(format!(
            "on the {which} the {} is parted {} from the edge: a facing at most so wide",
            at.name(),
            unit(long)
        )),
        NoFacing::TooTight => AlterError::not_here(format!(
            "on the {which} the {} bends too tightly for a facing {} wide: a narrower one",
            at.name(),
            unit(wide)
        )),
    })
}

fn words(at: At, wide: f64, style: Style) -> [(StageKind, String); 2] {
    let edge = at.name();
    [
        (
            StageKind::Mark,
            format!(
                "On the finished front and back, darts closed and panels joined, draw a line {} beside the {edge}, everywhere as far \
                 from it.",
                style.with_unit(wide)
            ),
        ),
        (
            StageKind::True,
            format!(
                "Trace what lies between, with the grain and the notches of the {edge}, as pieces of their own."
            ),
        ),
    ]
}
