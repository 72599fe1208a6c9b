//! What touches what: measured on the pattern before and after, so that nothing is skipped.
//!
//! The table of the handbook (`alterations.md`, section 3), read off the figures: an armhole that became longer
//! or shorter asks for the sleeve's cap, a neckline for its facing and collar, a waist for the skirt. Where
//! the piece is in this pattern it is done or offered; where it is not, a reminder is written.

use super::sleeve::{self, HalfBy};
use super::work::FollowUp;
use super::{Alteration, Altered, Amounts};
use crate::Style;
use crate::pattern::{
    CAP_PLAY, DartPlace, Garment, Half, Pattern, PatternMeasure, Piece, Seam, measure, too_wide_for_one,
};
use crate::sentence::capitalised;

/// Changes under this are not worth a word, in millimetres.
const WORTH_A_WORD: f64 = 1.0;

/// The alteration with what follows from it.
pub(super) fn followed(
    alteration: &dyn Alteration,
    before: &Pattern,
    mut altered: Altered,
    style: Style,
) -> Altered {
    let (now, was) = (Lengths::of(&altered.pattern), Lengths::of(before));
    let change = Change { exact: now.less(&was), now, was };
    if before.sleeve().is_some() {
        cap(alteration, before, &mut altered, &change, style);
    } else if let Some(says) = armhole_words(&change, style) {
        altered.follow_ups.push(
            FollowUp::reminder(format!("{says}: the cap of a sleeve follows."))
                .where_followed(Seam::Armhole, says),
        );
    }
    if change.exact.neckline.abs() > WORTH_A_WORD && change.now.neckline > 0.0 {
        let longer = change.longer(|lengths| lengths.neckline, style);
        let told = format!("The neckline is {longer} on each half");
        altered.follow_ups.push(
            FollowUp::reminder(format!("{told}: facing, collar or hood follow."))
                .where_followed(Seam::Neckline, told),
        );
    }
    let ends_at_waist = before.front().is_some_and(|front| front.last_edge(Seam::Hem).is_none());
    if change.exact.waist.abs() > WORTH_A_WORD && (ends_at_waist || before.garment() == Garment::Skirt) {
        let told = format!("The waist is {} all round", change.wider(|lengths| lengths.waist, style));
        altered.follow_ups.push(
            FollowUp::reminder(format!(
                "{told}: {} follow.",
                if ends_at_waist { "skirt, band or peplum" } else { "bodice or band" }
            ))
            .where_followed(Seam::Waist, told),
        );
    }
    altered.follow_ups.extend(centre_seams(before, &altered.pattern, style));
    altered.follow_ups.extend(wide_darts(before, &altered.pattern, style));
    altered
}

/// A centre that came off the fold.
fn centre_seams(before: &Pattern, after: &Pattern, style: Style) -> Option<FollowUp> {
    let on_fold = |pattern: &Pattern, seam| {
        pattern.pieces.iter().any(|piece| piece.edges_of(seam).any(|edge| edge.fold))
    };
    let opened = |seam: &Seam| on_fold(before, *seam) && !on_fold(after, *seam);
    [Seam::CentreFront, Seam::CentreBack].into_iter().find(opened).map(|seam| {
        FollowUp::reminder(style.say(&format!(
            "The {} is a seam now: cut two, with 12.7 to 15.9 mm of allowance on it so that it lies flat; the facing is \
             divided there too.",
            seam.name()
        )))
    })
}

/// A single waist dart that became too wide to sew flat: it is offered to be split.
fn wide_darts(before: &Pattern, after: &Pattern, style: Style) -> Option<FollowUp> {
    let too_wide = |piece: &Piece| {
        let (first, second) = piece.mouth(DartPlace::Waist)?;
        let is_split = piece.dart(DartPlace::WaistSide).is_some();
        too_wide_for_one(first.distance(second), style).filter(|_| !is_split)
    };
    let was = |piece: &Piece| before.piece(piece.kind).and_then(too_wide).is_some();
    let (piece, wide) =
        after.pieces.iter().filter(|piece| !was(piece)).find_map(|piece| Some((piece, too_wide(piece)?)))?;
    let which = if piece.kind.is_back() { "back" } else { "front" };
    Some(FollowUp::offered(
        format!("The {which} waist dart is {wide}: split it."),
        "split_dart",
        Amounts::of(0.5).by("piece", which),
    ))
}

/// The lengths other pieces hang on, in millimetres.
#[derive(Clone, Copy, Debug)]
struct Lengths {
    front_armhole: f64,
    back_armhole: f64,
    /// On each half, front and back together.
    neckline: f64,
    /// All round.
    waist: f64,
}

impl Lengths {
    fn of(pattern: &Pattern) -> Self {
        let of = |half: Option<&Half<'_>>, seam| half.map_or(0.0, |half| half.sewn_length(seam));
        let (front, back) = match pattern.skirt_halves() {
            Some((front, back)) => (Some(front), Some(back)),
            None => (pattern.front_half(), pattern.back_half()),
        };
        let in_front = |seam| of(front.as_ref(), seam);
        let behind = |seam| of(back.as_ref(), seam);
        Self {
            front_armhole: in_front(Seam::Armhole),
            back_armhole: behind(Seam::Armhole),
            neckline: in_front(Seam::Neckline) + behind(Seam::Neckline),
            waist: 2.0 * (in_front(Seam::Waist) + behind(Seam::Waist)),
        }
    }

    fn less(self, was: &Self) -> Self {
        Self {
            front_armhole: self.front_armhole - was.front_armhole,
            back_armhole: self.back_armhole - was.back_armhole,
            neckline: self.neckline - was.neckline,
            waist: self.waist - was.waist,
        }
    }
}

fn longer(mm: f64, style: Style) -> String {
    // What no mark of the tape shows is not said in noughts.
    if style.is_alike(mm, 0.0) {
        return format!("a thread {}", if mm > 0.0 { "longer" } else { "shorter" });
    }
    format!("{} {}", style.with_unit(mm.abs()), if mm > 0.0 { "longer" } else { "shorter" })
}

/// What an alteration did to the lengths that other pieces are sewn to.
struct Change {
    now: Lengths,
    was: Lengths,
    /// Now less then, in millimetres.
    exact: Lengths,
}

impl Change {
    /// The change in words. Lengths are told by the marks they are written in, so that the words agree with the rows that
    /// show both.
    fn said(&self, of: impl Fn(&Lengths) -> f64, words: [&str; 2], style: Style) -> String {
        let word = words[usize::from(of(&self.exact) < 0.0)];
        let shown = style.difference(of(&self.now), of(&self.was));
        if shown.text == style.show(0.0).text {
            return format!("a thread {word}");
        }
        format!("{} {word}", style.in_words(&shown))
    }

    fn longer(&self, of: impl Fn(&Lengths) -> f64, style: Style) -> String {
        self.said(of, ["longer", "shorter"], style)
    }

    fn wider(&self, of: impl Fn(&Lengths) -> f64, style: Style) -> String {
        self.said(of, ["wider", "narrower"], style)
    }
}

const FRONT_ARMHOLE: fn(&Lengths) -> f64 = |lengths| lengths.front_armhole;
const BACK_ARMHOLE: fn(&Lengths) -> f64 = |lengths| lengths.back_armhole;

fn armhole_words(change: &Change, style: Style) -> Option<String> {
    // An armhole that is gone has no sleeve to follow.
    let told = |of: fn(&Lengths) -> f64, name: &str| {
        (of(&change.exact).abs() > WORTH_A_WORD && of(&change.now) > 0.0)
            .then(|| format!("{name} is {}", change.longer(of, style)))
    };
    let halves = [told(FRONT_ARMHOLE, "the front armhole"), told(BACK_ARMHOLE, "the back armhole")];
    let halves: Vec<String> = halves.into_iter().flatten().collect();
    (!halves.is_empty()).then(|| capitalised(&halves.join(", ")))
}

/// The cap after the armhole: altered by what is over where the sleeve's rule is broken, or offered.
fn cap(alteration: &dyn Alteration, before: &Pattern, altered: &mut Altered, all: &Change, style: Style) {
    for (name, of) in [("front", FRONT_ARMHOLE), ("back", BACK_ARMHOLE)] {
        let change = of(&all.exact);
        let Some(over) = sleeve::over(&altered.pattern, name == "front") else { continue };
        if change.abs() <= WORTH_A_WORD && over == 0.0 {
            continue;
        }
        let was_over = sleeve::over(before, name == "front").unwrap_or_default();
        let amounts = |mm: f64| Amounts::of(mm).by("half", name);
        let told = if change.abs() > WORTH_A_WORD {
            format!("The {name} armhole is {}", all.longer(of, style))
        } else {
            format!("The {name} of the cap no longer fits its armhole")
        };
        // What was off before is not this alteration's: it is left for a step of its own.
        if over != 0.0 && was_over == 0.0 && alteration.takes_the_cap_along() {
            if let Some((pattern, how)) = sleeve::with_half_longer(&altered.pattern, name == "front", -over) {
                let says = how_the_cap_follows(&altered.pattern, &pattern, name, how, style);
                altered.pattern = pattern;
                altered.follow_ups.push(FollowUp::done(format!("{told}: {says}")));
            }
        } else if over != 0.0 || change.abs() > CAP_PLAY {
            let by = if over == 0.0 { change } else { -over };
            altered.follow_ups.push(FollowUp::offered(
                format!("{told}: the {name} of the cap would be {}.", longer(by, style)),
                "half_cap",
                amounts(by),
            ));
        }
    }
}

/// Which half of the cap was altered with the armhole, by how much, how, and what that does to the biceps line: each before
/// and after.
fn how_the_cap_follows(was: &Pattern, now: &Pattern, name: &str, how: HalfBy, style: Style) -> String {
    let half = |pattern: &Pattern| {
        pattern.sleeve().map_or(0.0, |sleeve| sleeve.edges[sleeve::half(name == "front")].curve.length())
    };
    let biceps = |pattern: &Pattern| measure(pattern).get(PatternMeasure::CapWidth).unwrap_or_default();
    let (from, to) = (half(was), half(now));
    let by = style.difference(to, from);
    let word = if to > from { "longer" } else { "shorter" };
    let write = |mm: f64| style.with_unit(mm);
    let shape = match how {
        HalfBy::Roundness => {
            let rounder = if to > from { "rounder" } else { "flatter" };
            format!("{rounder} at the same height, the biceps line keeps its {}", write(biceps(now)))
        }
        HalfBy::Width => {
            let wider = if to > from { "wider" } else { "narrower" };
            format!(
                "{wider} at the same height, since it cannot be {}: the biceps line goes from {} to {}",
                if to > from { "rounder" } else { "flatter" },
                write(biceps(was)),
                write(biceps(now))
            )
        }
    };
    if by.text == style.show(0.0).text {
        return format!("the {name} half of the cap was made a thread {word} with it; {shape}.");
    }
    let by = style.in_words(&by);
    format!(
        "the {name} half of the cap was made {by} {word} with it, from {} to {}; {shape}.",
        write(from),
        write(to)
    )
}
