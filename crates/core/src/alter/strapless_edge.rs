//! Strapless or corset edge: front and back cut off above the bust and under the arms, fitted to her along the edge and parted
//! into panels (handbook: `wishes.md`, section 2).

use kurbo::Vec2;

use super::keeps::Keeps;
use super::strapless_parts::{Asked, Strapless, strapless};
use super::style_line::can_be_parted;
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::geometry::Curve;
use crate::pattern::{DartPlace, Pattern, PatternMeasure, Piece, Seam, across_level};

/// The root of the bust lies so far below the bust point where it was not measured, in millimetres (common practice, no source).
const ROOT_BELOW: f64 = 75.0;
/// The edge lies at least so far above the bust point, in millimetres.
const ABOVE_BUST: f64 = 20.0;
/// At the centre it ends at least so far above the root of the bust, in millimetres.
const ABOVE_ROOT: f64 = 10.0;

ways! {
    /// How the edge runs in front.
    Shape {
        /// It leaves the centre level.
        Level = "level", "level at the centre";
        /// It comes to a point there.
        Sweetheart = "sweetheart", "sweetheart";
    }
}

const PARAMS: [Param; 10] = [
    Param::size("Cup height", (0.0, 320.0), "From the root of the bust up over the bust point to the edge."),
    Param::place(
        "drop",
        "Edge below the pit, at the centre",
        (0.0, 300.0),
        None,
        "From the pit of her neck down to the edge. Left out, as high as the cups.",
    ),
    Param::place(
        "under_bust",
        "Neck side to under the bust",
        (200.0, 600.0),
        None,
        "Over the bust point. Left out, three fingers below it: 75 mm.",
    ),
    Param::way("shape", "The edge in front is", Shape::WAYS, "How it leaves the centre front."),
    Param::place(
        "below",
        "Edge below the underarm, at the side",
        (-25.0, 40.0),
        Some(0.0),
        "How far down the side seam it lies; upwards with a minus.",
    ),
    Param::place(
        "behind",
        "Lower behind than at the side",
        (0.0, 150.0),
        Some(20.0),
        "How much lower it lies at the centre back.",
    ),
    Param::place(
        "gap",
        "Open behind for lacing",
        (0.0, 80.0),
        Some(0.0),
        "Between the two sides of the back, the same from top to bottom: usually 50 to 75 mm. Nothing where it closes.",
    ),
    Param::place(
        "upper_bust",
        "Her upper bust",
        (500.0, 2000.0),
        None,
        "Round her under the arms. Left out, as the block is there.",
    ),
    Param::place(
        "bust",
        "Her bust",
        (500.0, 2200.0),
        None,
        "Round her at the bust. Left out, as the block is there.",
    ),
    Param::share(
        "held",
        "Tighter than she is",
        (0.0, 0.04),
        Some(0.02),
        "By which share of her girth there the edge is drawn in, so that it holds.",
    ),
];

const ABOUT: About = About {
    code: "strapless_edge",
    name: "Strapless edge",
    why: "She wants no shoulders: front and back end above the bust, at the cup height she chooses, fitted to her along the edge and \
          parted into panels, closed or laced behind. It comes after all corrections of both.",
    params: &PARAMS,
    seams: &[Seam::Neckline, Seam::Armhole],
    wants: "a strapless edge cuts off a whole front and back with a waist dart each, and the neckline they were drafted with: here \
            one of them is parted already, has no waist dart, a dart at the centre, or its wished neckline",
    layer: Layer::Shape,
};

/// What it is told, in millimetres.
struct Wish {
    cup: f64,
    drop: Option<f64>,
    under_bust: Option<f64>,
    shape: Shape,
    below: f64,
    behind: f64,
    gap: f64,
    upper_bust: Option<f64>,
    bust: Option<f64>,
    /// As a share.
    held: f64,
}

impl Wish {
    fn of(args: &Args<'_>) -> Self {
        Self {
            cup: args.amount(),
            drop: args.number("drop"),
            under_bust: args.number("under_bust"),
            shape: args.choice("shape"),
            below: args.of("below"),
            behind: args.of("behind"),
            gap: args.of("gap"),
            upper_bust: args.number("upper_bust"),
            bust: args.number("bust"),
            held: args.of("held"),
        }
    }

    /// The edge on this front, within its limits.
    fn asked(&self, front: &Piece, style: Style) -> Result<Asked, AlterError> {
        let point = front.bust_pivot().ok_or_else(|| AlterError::not_here(ABOUT.wants))?;
        let (side, pit) = (front.neck_base_side().y, front.neck_base_top().y);
        let root = self.under_bust.map_or(point.y + ROOT_BELOW, |mm| side + mm);
        let top = root - self.cup;
        let refused = |says: String| Err(AlterError::not_here(says));
        let unit = |mm: f64| style.with_unit(mm);
        if root < point.y + ABOVE_ROOT {
            return refused(format!(
                "under the bust at {} from the neck side lies above the bust point, which is at {}: measured over the bust",
                unit(root - side),
                unit(point.y - side)
            ));
        }
        if top > point.y - ABOVE_BUST {
            return refused(format!(
                "a cup {} high ends less than {} above the bust point: at least {}",
                unit(self.cup),
                unit(ABOVE_BUST),
                unit(root - point.y + ABOVE_BUST)
            ));
        }
        if top < across_level(front) {
            return refused(format!(
                "a cup {} high reaches up to where the sleeves were set in: at most {}",
                unit(self.cup),
                unit(root - across_level(front))
            ));
        }
        let centre = self.drop.map_or(top, |drop| pit + drop);
        if centre < top {
            return refused(format!(
                "at the centre the edge would lie higher than the cups: at least {} below the pit",
                unit(top - pit)
            ));
        }
        if centre > root - ABOVE_ROOT {
            return refused(format!(
                "at the centre the edge would lie less than {} above the root of the bust: at most {} below the pit",
                unit(ABOVE_ROOT),
                unit(root - ABOVE_ROOT - pit)
            ));
        }
        Ok(Asked {
            top,
            centre,
            is_sweetheart: self.shape == Shape::Sweetheart,
            below_underarm: self.below,
            lower_behind: self.behind,
            gap: self.gap,
            bust: self.bust,
            upper_bust: self.upper_bust,
            drawn_in: self.held,
        })
    }
}

/// Front and back cut off and parted under an edge without shoulders.
pub(super) struct StraplessEdge;

impl Alteration for StraplessEdge {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let is_plain = |piece: &Piece| {
            can_be_parted(piece)
                && piece.neckline.is_none()
                && piece.first_edge(Seam::Neckline) == Some(0)
                && piece.edges.last().is_some_and(|last| last.seam == piece.kind.centre())
                && piece.dart(DartPlace::Centre).is_none()
        };
        pattern.front().is_some_and(|front| is_plain(front) && front.bust_pivot().is_some())
            && pattern.back().is_some_and(is_plain)
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        let below: &[PatternMeasure] = &[PatternMeasure::Waist, PatternMeasure::Hip];
        if Wish::of(args).gap > 0.0 { Keeps::default() } else { Keeps::exactly(&[below]) }
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let point = front.bust_pivot()?;
        Some(Handle::new(front.kind, point + Vec2::new(0.0, ROOT_BELOW), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let wish = Wish::of(args);
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let asked = wish.asked(front, style)?;
        let made = strapless((front, back), &asked, style)?;
        let words = words(&wish, &asked, &made, style);
        let [front_lines, back_lines] = &made.drawn;
        let drawn = |piece: &Piece, lines: &[Curve]| {
            lines.iter().fold(PieceWork::drawn(piece, piece.clone()), PieceWork::with_curve)
        };
        let works = [drawn(front, front_lines).with_hinge(made.bust_point), drawn(back, back_lines)];
        let mut done = altered(pattern, &works, &words);
        let follow_ups = follow_ups(&asked, &made, pattern.sleeve().is_some(), style);
        let Strapless { front: front_panels, back: back_panels, .. } = made;
        done.work.became = front_panels.iter().chain(&back_panels).cloned().collect();
        done.pattern = pattern.parted(front.kind, front_panels).parted(back.kind, back_panels);
        done.taped = done.pattern.clone();
        Ok(follow_ups.into_iter().fold(done, Altered::and))
    }
}

fn words(wish: &Wish, asked: &Asked, made: &Strapless, style: Style) -> [(StageKind, String); 3] {
    let unit = |mm: f64| style.with_unit(mm);
    let is_nothing = |mm: f64| style.is_alike(mm, 0.0);
    let at_side = match wish.below {
        below if is_nothing(below) => "at the underarm".to_owned(),
        below if below > 0.0 => format!("{} below the underarm", unit(below)),
        below => format!("{} above the underarm", unit(-below)),
    };
    let out = made.out;
    let taken: Vec<String> = [
        (out.bust, "as a wedge down to the bust point"),
        (out.back, "over the back's waist dart"),
        (out.side, "off each side edge, to nothing further down"),
    ]
    .into_iter()
    .filter(|(mm, _)| !is_nothing(*mm))
    .map(|(mm, place)| format!("{} {place}", unit(mm)))
    .collect();
    let taken = match taken.as_slice() {
        [] => "Nothing is taken out along it.".to_owned(),
        _ => format!("On each half take out {}.", taken.join(", ")),
    };
    let open = if asked.gap > 0.0 {
        format!(" Set the centre back in by {}: the other half lies as far beyond.", unit(asked.gap / 2.0))
    } else {
        String::new()
    };
    [
        (
            StageKind::Mark,
            format!(
                "Mark the cup's top straight above the bust point, {} above the root of the bust. Draw the edge from the centre front \
                 over it to the side seam, {at_side}, and behind from there to the centre back, {} lower.",
                unit(wish.cup),
                unit(asked.lower_behind)
            ),
        ),
        (StageKind::Move, format!("{taken} Draw the edge square to every seam again.")),
        (
            StageKind::True,
            format!(
                "Part front and back along wedge and waist dart. Walk the panels: they are equally long by construction.{open}"
            ),
        ),
    ]
}

fn follow_ups(asked: &Asked, made: &Strapless, has_sleeve: bool, style: Style) -> Vec<FollowUp> {
    let unit = |mm: f64| style.with_unit(mm);
    let open =
        if asked.gap > 0.0 { format!(" and {} are open behind", unit(asked.gap)) } else { String::new() };
    let known = if asked.bust.or(asked.upper_bust).is_some() { "she is" } else { "the block is" };
    let mut all = vec![FollowUp::reminder(format!(
        "Sewn, the edge is {} all round{open}; {known} {} there.",
        unit(made.sewn),
        unit(made.hers)
    ))];
    let short = made.wanted - made.sewn - asked.gap;
    if short > 0.0 && !style.is_alike(short, 0.0) {
        all.push(FollowUp::reminder(format!(
            "That is {} less than was wanted: nothing is taken out along it, the cloth gives it or the sides do.",
            unit(short)
        )));
    }
    if has_sleeve {
        all.push(FollowUp::reminder("No sleeve is cut: there is no armhole to set one into."));
    }
    all.push(FollowUp::reminder(
        "Face or bind the edge, with stay tape sewn to it; lining and foundation are parted along the same seams.",
    ));
    all
}
