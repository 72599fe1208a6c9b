//! Princess line: front or back divided from the armhole or the shoulder over the bust or blade to the lower edge, a pinned gape
//! taken up in the seam (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::keeps::{BACK, Keeps};
use super::style_line::{self, Asked, Begins, can_be_parted};
use super::ways::{Body, Ways};
use super::work::{DrawnPoint, FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::Curve;
use crate::pattern::{Pattern, PatternMeasure, Piece, Seam, measure};

/// A shortening of the armhole above this deserves a word, in millimetres.
const MUCH: f64 = 20.0;

/// Where tightening ends above the bust point, and the most of it each side, by her bust; millimetres, linear between
/// (common practice, no source).
const BY_BUST: [(f64, f64, f64); 4] =
    [(914.0, 25.0, 13.0), (965.0, 32.0, 19.0), (1016.0, 38.0, 25.0), (1270.0, 51.0, 25.0)];

const PARAMS: [Param; 8] = [
    Param::amount(
        "Pinned gape",
        MeasuredOn::Pinned,
        (0.0, 60.0),
        "The whole gape pinned at the armhole. Of a line from the armhole half is taken on either side of the seam; a line from \
         the shoulder takes it up by opening there. Nothing keeps the line without tightening it.",
    ),
    Param::share(
        "place",
        "Where on the armhole",
        (0.3, 0.75),
        Some(0.5),
        "Where the seam leaves the armhole, or where the gape was pinned, as a share of it from the shoulder tip.",
    ),
    Param::place(
        "above",
        "Ends above the bust point",
        (15.0, 70.0),
        None,
        "How far above the bust point the tightening ends. Left out, by her bust.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way(
            "from",
            "From",
            Begins::WAYS,
            "Where the line begins: in the armhole, at the shoulder dart or the middle of the shoulder, or in the neckline.",
        )
    },
    Param::share(
        "starts",
        "Where on shoulder or neckline",
        (0.1, 0.9),
        None,
        "As a share of the shoulder from the neck side, or of the neckline from the centre. Left out, at the shoulder dart, or in the \
         middle.",
    ),
    Param::place(
        "through_out",
        "Drawn through, out from the centre",
        (0.0, 400.0),
        None,
        "A line of her own goes through this point on its way down; it can be dragged on the drawing. Left out, it runs by itself.",
    ),
    Param::place(
        "through_down",
        "Drawn through, down from the neck side",
        (-100.0, 500.0),
        None,
        "How far down that point lies.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way("piece", "Which piece", Body::WAYS, "The piece that is divided.")
    },
];

const ABOUT: About = About {
    code: "princess_line",
    name: "Princess line",
    why: "Front or back is divided over the bust or the blade; a gaping armhole is taken up in the seam. It comes after all \
         corrections of the piece.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Shoulder, Seam::DartLeg],
    wants: "a princess line follows the waist dart of a whole front or back: this pattern has none, draw a waist dart there first \
            (its place and its intake)",
    layer: Layer::Shape,
};

/// What it is told.
struct Params {
    /// The pinned gape, in millimetres.
    gape: f64,
    /// Where the line leaves the armhole, or the gape was pinned, as a share of it from the tip.
    place: f64,
    /// How far above the bust point the tightening ends, in millimetres; none by her bust.
    above: Option<f64>,
    begins: Begins,
    starts: Option<f64>,
    /// A point of her own that the line goes through.
    through: Option<Vec2>,
    piece: Body,
}

impl Params {
    fn of(args: &Args<'_>) -> Result<Self, AlterError> {
        let through = match (args.number("through_out"), args.number("through_down")) {
            (Some(out), Some(down)) => Some(Vec2::new(out, down)),
            (None, None) => None,
            _ => {
                return Err(AlterError::not_here(
                    "the point that the line goes through has two figures, out and down: say both, or neither",
                ));
            }
        };
        Ok(Self {
            gape: args.amount(),
            place: args.of("place"),
            above: args.number("above"),
            begins: args.choice("from"),
            starts: args.number("starts"),
            through,
            piece: args.choice("piece"),
        })
    }
}

/// A front or back divided into a centre and a side panel.
pub(super) struct PrincessLine;

impl Alteration for PrincessLine {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        [pattern.front(), pattern.back()].into_iter().flatten().any(can_be_parted)
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        use PatternMeasure as F;
        let front = [F::NecklineFront, F::ShoulderFront, F::SideFront, F::CentreFront];
        if args.choice::<Body>("piece") == Body::Back {
            let back = [F::NecklineBack, F::ShoulderBack, F::SideBack, F::CentreBack];
            return Keeps::exactly(&[&front, &back, &[F::ArmholeFront, F::Waist, F::Hip]]);
        }
        Keeps::exactly(&[BACK, &front, &[F::Waist, F::Hip]])
    }

    fn is_nothing(&self, _: &Args<'_>) -> bool {
        // Without tightening the piece is still divided.
        false
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn comes_second(&self, args: &Args<'_>) -> bool {
        // What a line in front takes up goes by the bust, which is measured across a whole back.
        args.choice::<Body>("piece") == Body::Back
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let (piece, place): (Body, f64) = (args.choice("piece"), args.of("place"));
        super::gape::gripped_on(piece.piece_of(pattern)?, Seam::Armhole, place)
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let Params { gape, place, above, begins, starts, through, piece: half } = Params::of(args)?;
        let which = half.name();
        let piece = half.piece_of(pattern).filter(|piece| can_be_parted(piece)).ok_or_else(|| {
            AlterError::not_here(format!(
                "a princess line follows the waist dart: this pattern has no whole {which} with one, draw it there first (its \
                 place and its intake)"
            ))
        })?;
        // The table goes by her bust: the block's ease is not counted.
        let bust = measure(pattern).get(PatternMeasure::Bust).unwrap_or(BY_BUST[0].0);
        let (usual_above, most) = by_bust(bust - pattern.bust_ease.unwrap_or_default());
        if begins == Begins::Armhole && gape / 2.0 > most {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Pinned,
                gape,
                2.0 * most,
                "that a princess seam takes up at this bust",
                "take the rest out as a full bust alteration or a gape into the dart first",
            ));
        }
        if begins == Begins::Neckline && gape > 0.0 {
            return Err(AlterError::not_here(
                "a gape is taken up by a line from the armhole or the shoulder: take it into a dart first, or begin there",
            ));
        }
        let asked = Asked { begins, place, starts, through, above: above.unwrap_or(usual_above), gape };
        let parted = style_line::part(piece, &asked)?;
        let words = words(&asked, piece, style);
        let work = PieceWork::drawn(piece, piece.clone()).with_curve(&parted.line).with_hinge(parted.ring);
        let mut done = altered(pattern, &[work], &words);
        let armhole = |piece: &Piece| piece.sewn_length(Seam::Armhole);
        let shorter = armhole(piece) - armhole(&parted.centre) - armhole(&parted.side);
        done.point = Some(drawn_point(piece, &asked, &parted.line, style));
        done.work.became = vec![parted.centre.clone(), parted.side.clone()];
        done.pattern = pattern.parted(piece.kind, [parted.centre, parted.side]);
        done.taped = done.pattern.clone();
        if gape > 0.0 {
            let says =
                format!("The {which} armhole is {} shorter by the princess seam.", style.with_unit(shorter));
            let much =
                if shorter > MUCH { " That is much: look whether the bust wants room instead." } else { "" };
            done = done.and(FollowUp::reminder(format!("{says}{much}")));
        }
        if begins != Begins::Armhole {
            let seam = if begins == Begins::Shoulder { "the sewn shoulder" } else { "the sewn neckline" };
            let other = if half == Body::Back { "front" } else { "back" };
            done = done.and(FollowUp::reminder(format!(
                "Where the {other} has such a line too, let both begin at the same place of {seam}."
            )));
        }
        Ok(done.and(FollowUp::reminder(format!(
            "Facings and linings of the {which} are divided along the same line; a loose coat keeps it without tightening."
        ))))
    }
}

/// Where a point of the line lies, in words.
fn told(point: Vec2, style: Style) -> String {
    format!(
        "{} out from the centre and {} down from the neck side",
        style.with_unit(point.x),
        style.with_unit(point.y)
    )
}

/// The point that the line can be drawn through: her own, or its middle.
fn drawn_point(piece: &Piece, asked: &Asked, line: &Curve, style: Style) -> DrawnPoint {
    let neck_side = piece.neck_base_side().y;
    let at = match asked.through {
        Some(through) => Point::new(0.0, neck_side) + through,
        None => line.point_at(line.length() / 2.0),
    };
    let (out, down) = (at.x, at.y - neck_side);
    DrawnPoint {
        piece: piece.kind,
        at: at.into(),
        out,
        down,
        says: told(Vec2::new(out, down), style),
        params: ["through_out".to_owned(), "through_down".to_owned()],
    }
}

/// Where tightening ends above the bust point and the most of it, at this bust.
fn by_bust(bust: f64) -> (f64, f64) {
    let last = BY_BUST[BY_BUST.len() - 1];
    if bust <= BY_BUST[0].0 {
        return (BY_BUST[0].1, BY_BUST[0].2);
    }
    BY_BUST.windows(2).find(|pair| bust <= pair[1].0).map_or((last.1, last.2), |pair| {
        let share = (bust - pair[0].0) / (pair[1].0 - pair[0].0);
        let between = |a: f64, b: f64| a + (b - a) * share;
        (between(pair[0].1, pair[1].1), between(pair[0].2, pair[1].2))
    })
}

fn words(asked: &Asked, piece: &Piece, style: Style) -> [(StageKind, String); 3] {
    let point = if piece.kind.is_back() { "end of the waist dart" } else { "bust point" };
    let down =
        if piece.two_pointed.is_empty() { "down the waist dart" } else { "down the waist dart to the hem" };
    let from = match asked.begins {
        Begins::Armhole => "from the armhole, square into the piece, to",
        Begins::Shoulder if asked.starts.is_some() => "from the shoulder, square into the piece, to",
        Begins::Shoulder if piece.dart(crate::pattern::DartPlace::Shoulder).is_some() => {
            "from the shoulder down the shoulder dart and on to"
        }
        Begins::Shoulder => "from the middle of the shoulder, square into the piece, to",
        Begins::Neckline => "from the neckline, square into the piece, to",
    };
    let by = asked
        .through
        .map_or_else(String::new, |point| format!(" through the point {}, to", told(point, style)));
    let from =
        if by.is_empty() { from.to_owned() } else { format!("{},{by}", from.trim_end_matches(", to")) };
    let taken = match asked.begins {
        _ if asked.gape == 0.0 => "Nothing is taken up: the two edges run together.".to_owned(),
        Begins::Armhole => format!(
            "Above the ring turn each edge away by {} at the armhole, up on the centre panel and down on the side panel.",
            style.with_unit(asked.gape / 2.0)
        ),
        Begins::Shoulder | Begins::Neckline => format!(
            "Fold the tuck of {} at the armhole shut by swinging the shoulder of the side panel down about the ring: the line \
             opens at the shoulder.",
            style.with_unit(asked.gape)
        ),
    };
    let trued = match asked.begins {
        Begins::Armhole => {
            "Fold the seam shut, draw the armhole across it, and cut both panels along that line. "
        }
        _ if asked.gape > 0.0 => "Draw the armhole smooth over the closed tuck. ",
        _ => "",
    };
    [
        (
            StageKind::Mark,
            format!(
                "Draw the line {from} the {point} and on {down}. Mark the ring where tightening ends, with notches across."
            ),
        ),
        (StageKind::Move, taken),
        (StageKind::True, format!("{trued}Walk the panels: they are equally long by construction.")),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_met_and_runs_straight_between() {
        assert_eq!(by_bust(914.0), (25.0, 13.0));
        assert_eq!(by_bust(1016.0), (38.0, 25.0));
        assert_eq!(by_bust(1400.0), (51.0, 25.0));
        assert_eq!(by_bust(800.0), (25.0, 13.0));
        let (above, most) = by_bust(939.5);
        assert!((above - 28.5).abs() < 1e-9 && (most - 16.0).abs() < 1e-9);
    }
}
