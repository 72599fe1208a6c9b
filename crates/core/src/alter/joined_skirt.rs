//! Skirt joined at the waist: a straight skirt drafted to the waist of a bodice as it is sewn, front and back apart (handbook:
//! `wishes.md`, section 7). Where the bodice's waist changes, the skirt's darts give first, then the bodice is gathered.

use super::hem_length::{HemWish, LEFT_SIDE, OUT, RIGHT_SIDE, let_down, up_to_hip};
use super::joined_skirt_parts::{Asked, TakenIn, drafted};
use super::keeps::{ARMHOLES, CENTRES, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::sewn_on::{on_front, one_or_each, sewn_on, sides_of};
use super::ways::Ways;
use super::work::of_both_sides;
use super::{About, AlterError, Alteration, Altered, Args, FollowUp, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::draft::{LEAST_BELOW_HIP, Skirt};
use crate::pattern::{LevelName, Pattern, PatternMeasure, Piece, Seam, WornSide, quarters};
use kurbo::Vec2;

const PARAMS: [Param; 11] = [
    Param::size("Length", (0.0, 1500.0), "Down the side, from the waist to the finished hem."),
    Param::place("hip", "Her hip", (500.0, 2400.0), None, "All round, as it was measured, without ease."),
    Param::place(
        "to_hip",
        "Waist to hip",
        (80.0, 350.0),
        None,
        "Down the side, from the waist to the hip, as it was measured.",
    ),
    Param::place(
        "ease",
        "Ease at the hip",
        (0.0, 300.0),
        Some(40.0),
        "What the skirt is wider there, all round.",
    ),
    OUT,
    Param {
        told_where_chosen: true,
        ..Param::way(
            "taken_in",
            "Its waist is taken in by",
            TakenIn::WAYS,
            "What the skirt is wider than the waist it is sewn to.",
        )
    },
    Param::place(
        "knee",
        "Waist to knee",
        (300.0, 900.0),
        None,
        "Where her knee lies, to draw its line and to ask for a slit. Left out, it is not drawn.",
    ),
    Param::place(
        "ankle",
        "Waist to ankle",
        (500.0, 1300.0),
        None,
        "Where her ankle lies, to draw its line. Left out, it is not drawn.",
    ),
    Param::place(
        "floor",
        "Waist to floor",
        (600.0, 1500.0),
        None,
        "Where the floor lies, in her shoes, to draw its line. Left out, it is not drawn.",
    ),
    LEFT_SIDE,
    RIGHT_SIDE,
];

const ABOUT: About = About {
    code: "joined_skirt",
    name: "Skirt joined at the waist",
    why: "The bodice goes on in a skirt. It is drafted to the waist as it is at the end, front and back apart.",
    params: &PARAMS,
    seams: &[Seam::Waist],
    wants: "a skirt is joined to a front and back that end at the waist, and once: this pattern goes on below it, has a waistband, or \
            has its skirt",
    layer: Layer::Finish,
};

/// A skirt joined to a bodice.
pub(super) struct JoinedSkirt;

impl Alteration for JoinedSkirt {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.skirt_halves().is_none()
            && quarters(pattern, Seam::Waist).is_some()
            && pattern.follows(Seam::Waist).next().is_none()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, &[PatternMeasure::Bust]])
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        on_front(pattern, Seam::Waist, Vec2::new(0.0, 1.0))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let asked = asked(args)?;
        let length = asked.below_hip;
        if length < LEAST_BELOW_HIP {
            return Err(AlterError::not_here(format!(
                "a skirt {} long ends less than {} below a hip {} below the waist: at least {}",
                style.with_unit(args.amount()),
                style.with_unit(LEAST_BELOW_HIP),
                style.with_unit(asked.waist_to_hip),
                style.with_unit(asked.waist_to_hip + LEAST_BELOW_HIP)
            )));
        }
        let line = |name, code| (name, args.number(code).map(|mm| mm - asked.waist_to_hip));
        let wish_at = |side: &Param| HemWish {
            length,
            longer_at_side: args.of(side.code),
            out: args.of("out"),
            lines: [
                line(LevelName::Knee, "knee"),
                line(LevelName::Ankle, "ankle"),
                line(LevelName::Floor, "floor"),
            ],
        };
        let both @ [wish, right] = [&LEFT_SIDE, &RIGHT_SIDE].map(wish_at);
        both.iter().try_for_each(|wish| wish.is_possible(style))?;
        let sides: Vec<(Pattern, HemWish)> = if wish == right {
            sides_of(pattern).into_iter().map(|worn| (worn, wish)).collect()
        } else {
            WornSide::BOTH.map(|side| pattern.worn_on(side)).into_iter().zip(both).collect()
        };
        let mut gathered: Vec<(Piece, f64)> = Vec::new();
        let mut of_side = |(worn, wish): &(Pattern, HemWish)| -> Result<[Piece; 2], AlterError> {
            let [front, back] = drafted(worn, &asked, style)?;
            for (piece, by) in [&front, &back].into_iter().filter_map(|half| half.gathered.clone()) {
                // A piece that serves both sides is gathered once.
                if gathered.iter().all(|(known, _)| known.kind != piece.kind) {
                    gathered.push((piece, by));
                }
            }
            let down = |piece: &Piece| {
                let to_hip = up_to_hip(piece).ok_or_else(|| AlterError::no_seam(Seam::Hem))?;
                let_down(&to_hip, wish)
            };
            Ok([down(&front.piece)?, down(&back.piece)?])
        };
        let worn = sides.iter().map(&mut of_side).collect::<Result<Vec<_>, _>>()?;
        let [fronts, backs] =
            [0, 1].map(|half| one_or_each(worn.iter().map(|pieces| pieces[half].clone()).collect()));
        let round = |pieces: &[Piece]| {
            let each = |piece: &Piece| piece.sewn_length(Seam::Hem);
            2.0 * pieces.iter().map(each).sum::<f64>() / pieces.len() as f64
        };
        let hem = round(&fronts) + round(&backs);
        let words = words(&fronts, &backs, &both, style);
        let made: Vec<Piece> = fronts.into_iter().chain(backs).collect();
        let mut done = sewn_on(pattern, &made, &words);
        for (piece, _) in &gathered {
            done.pattern = done.pattern.with(piece.clone());
        }
        done.taped = done.pattern.clone();
        let mut says = vec![
            "The skirt is drafted from the waist as it is now, and again whenever a step before it changes that.".to_owned(),
            HemWish::facing_words(style),
        ];
        says.extend(gathered.iter().map(|(piece, gathers)| {
            format!(
                "The waist of the {} is {} wider than the skirt even without darts: it is gathered between the notches.",
                piece.kind.name().to_lowercase(),
                style.with_unit(*gathers)
            )
        }));
        says.extend(wish.slit_words(hem, style));
        Ok(says.into_iter().map(FollowUp::reminder).fold(done, Altered::and))
    }
}

/// What is asked of the skirt's waist and hip.
fn asked(args: &Args<'_>) -> Result<Asked, AlterError> {
    let told = |code: &str, what: &str| {
        args.number(code).ok_or_else(|| AlterError::not_here(format!("a skirt is drafted to {what}: say it")))
    };
    let (hip, waist_to_hip) = (told("hip", "her hip")?, told("to_hip", "her length from waist to hip")?);
    let taken_in = args.choice("taken_in");
    Ok(Asked {
        hip: hip + args.of("ease"),
        waist_to_hip,
        below_hip: args.amount() - waist_to_hip,
        taken_in,
        method: Skirt::default(),
    })
}

fn words(fronts: &[Piece], backs: &[Piece], wishes: &[HemWish; 2], style: Style) -> [(StageKind, String); 3] {
    let waist = |pieces: &[Piece]| {
        let each = pieces.iter().map(|piece| style.with_unit(piece.sewn_length(Seam::Waist)));
        let mut each: Vec<String> = each.collect();
        // A skirt longer on one side is as wide on both.
        each.dedup();
        each.join(" on the left and ")
    };
    let [left, right] = wishes.map(|wish| wish.side_words(style));
    let has_darts = fronts.iter().chain(backs).any(|piece| !piece.darts.is_empty());
    let is_gathered = fronts.iter().chain(backs).any(|piece| !piece.gathers.is_empty());
    let taken_in = match (has_darts, is_gathered) {
        (true, _) => "What is left over goes into darts, each opened about its lower end.",
        (_, true) => "What is left over is gathered between the notches.",
        _ => "So little is left over that it goes into the side.",
    };
    [
        (
            StageKind::Mark,
            format!(
                "Draft the skirt to the waist as it is sewn: {} in front and {} behind. {taken_in}",
                waist(fronts),
                waist(backs)
            ),
        ),
        (StageKind::Move, of_both_sides(left, &right)),
        (
            StageKind::True,
            "Draw the hem: level at the centre, square to the side. Walk its waist along the bodice's."
                .to_owned(),
        ),
    ]
}
