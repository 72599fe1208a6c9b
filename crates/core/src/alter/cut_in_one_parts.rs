//! The geometry of a sleeve in one with the body: overarm, edge and underarm seam of front and back, drawn so that every
//! seam joins (handbook: `wishes.md`, section 6).

use kurbo::{Affine, Point, Vec2};

use super::AlterError;
use super::move_dart::moved;
use super::style_line::{Begins, with_one_dart};
use crate::Style;
use crate::geometry::{Curve, SAME_POINT, house_curve, quarter_turn, reach_within, root, turn_degrees};
use crate::pattern::{DartPlace, Edge, LevelName, Notch, Piece, Seam, true_closed_side};

/// The seam goes so much higher over the shoulder point, in millimetres: the joint is round (common practice, no source).
const RAISED: f64 = 6.0;
/// The bend over the shoulder is drawn round over this length either way, in millimetres, and at most over this share of
/// shoulder and sleeve.
const ROUNDED: f64 = 50.0;
const ROUNDED_SHARE: f64 = 0.6;
/// The edge is so much narrower in front than half of it, and wider behind, in millimetres (common practice, no source).
const NARROWER_IN_FRONT: f64 = 5.0;
/// The sleeve is so much wider than her upper arm where it is set on, in millimetres (common practice, no source).
const ROOM: f64 = 60.0;
/// Where the waist leaves no more, at least so much, in millimetres (common practice, no source).
const LEAST_ROOM: f64 = 30.0;
/// The underarm point lies at least so far below the one of a set-in sleeve, and so far above the waist, in millimetres.
const LEAST_LOWER: f64 = 25.0;
const ABOVE_WAIST: f64 = 60.0;
/// The underarm seam leaves the edge straight for so long, in millimetres (common practice, no source).
const STRAIGHT: f64 = 30.0;
/// It turns into the side seam over this length, in millimetres, at most over these shares of what lies before and after.
const TURNED_OVER: f64 = 90.0;
const SHARE_BEFORE: f64 = 0.7;
const SHARE_AFTER: f64 = 0.8;
/// Before the turn the underarm seam is at least so long, in millimetres, beyond its straight start.
const LEAST_UNDERARM: f64 = 20.0;
/// From its straight start at the edge it turns at most so far, in degrees.
const MOST_TURN: f64 = 40.0;
/// Sleeve and side are at least so far apart, in degrees.
const LEAST_ANGLE: f64 = 25.0;
/// The turn between them is nowhere sharper than this radius, in millimetres; looked at so many places.
const LEAST_RADIUS: f64 = 15.0;
const CURVATURES: u32 = 60;
/// The edge is tilted at most so far, and the back's overarm at most so far from the front's fall, in degrees.
const MOST_TILT: f64 = 5.0;
const MOST_BACK: f64 = 8.0;
/// An overarm falls at most so steeply, in degrees below level: beyond that it wants a gusset (common practice, no source).
const STEEPEST: f64 = 45.0;

/// The seams that end in the sleeve: nothing may be eased into them.
const GONE: [Seam; 3] = [Seam::Shoulder, Seam::Armhole, Seam::Side];

/// What is asked for, in millimetres.
#[derive(Clone, Debug)]
pub(super) struct Asked {
    /// From the shoulder point to the edge.
    pub(super) length: f64,
    /// From the nape to the shoulder point.
    pub(super) to_shoulder: f64,
    /// Round at the edge: tried in this order.
    pub(super) openings: Vec<f64>,
    pub(super) upper_arm: f64,
    /// How much the overarm falls below the shoulder's own slope, in degrees: tried in this order.
    pub(super) falls: &'static [f64],
}

/// Front and back as they became.
pub(super) struct InOne {
    pub(super) front: Piece,
    pub(super) back: Piece,
    /// How much the overarm falls below the shoulder's slope in front, in degrees.
    pub(super) falls: f64,
    /// Round at the edge.
    pub(super) opening: f64,
    /// How far below the old underarm the sleeve is set on.
    pub(super) lower: f64,
    /// Sewn length of the underarm seam.
    pub(super) underarm: f64,
    /// How much less wide it is than her arm wants it, where the waist leaves no more.
    pub(super) narrower: f64,
}

/// Draws front and back with their sleeves.
///
/// # Errors
///
/// [`AlterError::NotHere`] where it cannot be drawn, and what would help.
pub(super) fn cut_in_one(
    front: &Piece,
    back: &Piece,
    asked: &Asked,
    style: Style,
) -> Result<InOne, AlterError> {
    let alike = slope(front.tip() - front.neck_side());
    let (front, back) = (Body::of(front, alike)?, Body::of(back, alike)?);
    let mut first = None;
    let ways =
        asked.openings.iter().flat_map(|opening| asked.falls.iter().map(move |fall| (*opening, *fall)));
    for (opening, falls) in ways {
        match drawn(&front, &back, asked, (opening, falls.to_radians()), style) {
            Ok((front_sleeve, back_sleeve, SetOn { lower, narrower })) => {
                return Ok(InOne {
                    opening,
                    narrower,
                    underarm: front_sleeve.underarm.length(),
                    front: front.with(front_sleeve),
                    back: back.with(back_sleeve),
                    falls,
                    lower,
                });
            }
            Err(error) => first = first.or(Some(error)),
        }
    }
    Err(first
        .unwrap_or_else(|| AlterError::not_here("no edge, or no way for the sleeve to fall, was asked for")))
}

/// One piece ready for its sleeve, its darts turned away.
struct Body {
    piece: Piece,
    neck: Point,
    /// Sewn length of the shoulder, and its direction from the neck side.
    shoulder: f64,
    along: Vec2,
    /// How the shoulder leaves the neckline: it goes on doing so.
    leaves: Vec2,
    /// The side seam from the underarm down, and how much of it lies above the waist.
    side: Curve,
    to_waist: f64,
}

impl Body {
    /// `alike` is how the front's shoulder slopes, in radians: one with a dart is laid as nearly like it as the dart lets it.
    fn of(piece: &Piece, alike: f64) -> Result<Self, AlterError> {
        if let Some(gather) = piece.gathers.iter().find(|gather| GONE.contains(&gather.seam)) {
            return Err(AlterError::not_here(format!(
                "what is eased into the {} of the {} lies where the sleeve is drawn on: sew that dart, or turn it away first",
                gather.seam.name(),
                piece.kind.name().to_lowercase()
            )));
        }
        let piece = with_darts_turned_away(piece)?;
        let neck = piece.neck_side();
        let open = slope(piece.tip() - neck);
        let slope = match (piece.dart(DartPlace::Shoulder), piece.mouth(DartPlace::Shoulder)) {
            (Some(dart), Some((inner, outer))) => {
                let closing = turn_degrees(outer - dart.pivot, inner - dart.pivot).to_radians();
                let closed = slope(Affine::rotate_about(closing, dart.pivot) * piece.tip() - neck);
                alike.clamp(open.min(closed), open.max(closed))
            }
            _ => open,
        };
        let side = { piece.edges_of(Seam::Side) }.map(|edge| edge.curve.clone()).reduce(Curve::then);
        let side = side.ok_or_else(|| AlterError::no_seam(Seam::Side))?;
        let waist = piece.waist_at_side();
        let to_waist = waist.map_or_else(|| side.length(), |point| side.nearest(point));
        let shoulder = piece.sewn_length(Seam::Shoulder);
        let first =
            piece.edges_of(Seam::Shoulder).next().ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
        let leaves = first.curve.start_direction();
        let along = Vec2::new(slope.cos(), slope.sin());
        Ok(Self { piece, neck, shoulder, along, leaves, side, to_waist })
    }

    /// How far its shoulder slopes, in radians.
    fn slope(&self) -> f64 {
        slope(self.along)
    }

    /// The overarm seam from the neck side, so steep, in radians below level.
    fn overarm(&self, length: f64, steep: f64) -> Overarm {
        let direction = Vec2::new(steep.cos(), steep.sin());
        let raised = self.neck + self.along * self.shoulder - Vec2::new(0.0, RAISED);
        let to_raised = raised.distance(self.neck);
        let reach = ROUNDED.min(ROUNDED_SHARE * self.shoulder).min(ROUNDED_SHARE * length);
        let into = (raised - self.neck) / to_raised;
        let (begins, ends) = (raised - into * reach, raised + direction * reach);
        let handle = (to_raised - reach) / 3.0;
        let over_the_shoulder =
            Curve::cubic(self.neck, self.neck + self.leaves * handle, begins - into * handle, begins);
        let round = house_curve(begins, into, ends, direction).curve;
        let straight = self.shoulder + length - over_the_shoulder.length() - round.length();
        let end = ends + direction * straight;
        let curve = over_the_shoulder.then(round).then(Curve::line(ends, end));
        Overarm { curve, raised, end, direction }
    }

    /// The underarm seam from the edge's end to the side seam, where the sleeve is set on so low; the edge is so wide, and
    /// turned so far about the overarm's end, in radians.
    fn underarm(&self, over: &Overarm, (width, tilt): (f64, f64), lower: f64) -> Result<Sleeve, Unfit> {
        let turned = Affine::rotate(tilt);
        let outwards = (turned * over.direction.to_point()).to_vec2();
        let end = over.end + quarter_turn(outwards) * width;
        let straight_end = end - outwards * STRAIGHT;
        let corner = self.side.point_at(lower);
        let whole = straight_end.distance(corner);
        let towards = (corner - straight_end) / whole;
        if towards.dot(outwards) > 0.0 || whole < STRAIGHT + LEAST_UNDERARM {
            return Err(Unfit::Short);
        }
        let turn = turn_degrees(-outwards, towards);
        if turn.abs() > MOST_TURN {
            return Err(if turn > 0.0 { Unfit::Wide } else { Unfit::Narrow });
        }
        // The sleeve lies outwards of the side seam, not before the body.
        if turn_degrees(-towards, self.side.direction_at(lower)) < LEAST_ANGLE {
            return Err(Unfit::Near);
        }
        let before = TURNED_OVER.min(SHARE_BEFORE * whole);
        let after = TURNED_OVER.min(SHARE_AFTER * (self.to_waist - lower));
        let begins = reach_within(straight_end, corner, STRAIGHT).min(whole - before);
        let (leaves, turns) = (straight_end + towards * begins, corner - towards * before);
        let meets = self.side.point_at(lower + after);
        let round = house_curve(end, -outwards, leaves, towards).curve;
        let into = house_curve(turns, towards, meets, self.side.direction_at(lower + after)).curve;
        let sharpest = into.curvatures(CURVATURES).into_iter().fold(0.0, |most: f64, k| most.max(k.abs()));
        if sharpest > 1.0 / LEAST_RADIUS {
            return Err(Unfit::Near);
        }
        let underarm = if leaves.distance(turns) < SAME_POINT {
            round.then(into)
        } else {
            round.then(Curve::line(leaves, turns)).then(into)
        };
        Ok(Sleeve {
            overarm: over.curve.clone(),
            edge: Curve::line(over.end, end),
            underarm,
            meets: lower + after,
        })
    }

    /// The piece with its sleeve.
    fn with(&self, sleeve: Sleeve) -> Piece {
        let mut after = self.piece.clone();
        let neckline = after.last_edge(Seam::Neckline).map_or(0, |last| last + 1);
        let below = after.last_edge(Seam::Side).map_or(neckline, |last| last + 1);
        let (shoulder, overarm) = sleeve.overarm.split(self.shoulder);
        let drawn = [
            Edge::sewn(Seam::Shoulder, shoulder),
            Edge::sewn(Seam::Overarm, overarm),
            Edge::sewn(Seam::SleeveEdge, sleeve.edge),
            Edge::sewn(Seam::UnderSleeve, sleeve.underarm),
            Edge::sewn(Seam::Side, self.side.split(sleeve.meets).1),
        ];
        after.edges.splice(neckline..below, drawn);
        after.darts.retain(|dart| dart.place != DartPlace::Shoulder);
        // Notches of the armhole are gone; those of the side seam are told from where it begins now.
        let moved = |notch: &Notch| match notch.seam {
            Seam::Armhole | Seam::Shoulder => None,
            Seam::Side if notch.from_underarm < sleeve.meets => None,
            Seam::Side => Some(Notch { from_underarm: notch.from_underarm - sleeve.meets, ..*notch }),
            _ => Some(*notch),
        };
        after.notches = after.notches.iter().filter_map(moved).collect();
        after
    }
}

/// The shoulder and overarm seam in one.
struct Overarm {
    curve: Curve,
    /// Its corner over the shoulder point, before it is drawn round.
    raised: Point,
    end: Point,
    direction: Vec2,
}

impl Overarm {
    /// How far a point lies from its straight line.
    fn distance(&self, point: Point) -> f64 {
        (point - self.raised).cross(self.direction).abs()
    }

    /// How far down along it a point lies, from the corner over the shoulder point.
    fn along(&self, point: Point) -> f64 {
        (point - self.raised).dot(self.direction)
    }
}

/// The lines of one piece's sleeve.
struct Sleeve {
    overarm: Curve,
    edge: Curve,
    underarm: Curve,
    /// How far down the old side seam the new one begins.
    meets: f64,
}

/// Why a sleeve does not close.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Unfit {
    /// The edge lies above the underarm point.
    Short,
    /// The underarm seam would turn sharply at the edge: that is too wide for so short a sleeve, or too narrow.
    Wide,
    Narrow,
    /// Sleeve and side leave no room for each other.
    Near,
}

/// Where the sleeve is set on.
#[derive(Clone, Copy)]
struct SetOn {
    /// Below the old underarm, along the side.
    lower: f64,
    /// How much less wide the sleeve is there than her arm wants it.
    narrower: f64,
}

/// The sleeves of front and back, and where they are set on.
fn drawn(
    front: &Body,
    back: &Body,
    asked: &Asked,
    (opening, fall): (f64, f64),
    style: Style,
) -> Result<(Sleeve, Sleeve, SetOn), AlterError> {
    let steep = [front, back].map(|body| (body.slope() + fall).min(STEEPEST.to_radians()));
    let over_front = front.overarm(asked.length, steep[0]);
    let halves = (opening / 2.0 - NARROWER_IN_FRONT, opening / 2.0 + NARROWER_IN_FRONT);
    let both = |over_back: &Overarm, tilt: f64| -> Result<(Sleeve, Sleeve, SetOn), Refused> {
        let set_on = set_on(front, back, (&over_front, over_back), asked).ok_or(Refused::TooLow)?;
        let lower = set_on.lower;
        let sides = [(front, &over_front, halves.0, -tilt), (back, over_back, halves.1, tilt)];
        let [one, other] = sides.map(|(body, over, width, tilt)| {
            body.underarm(over, (width, tilt), lower)
                .map_err(|unfit| Refused::Unfit(unfit, least(body, over, lower)))
        });
        Ok((one?, other?, set_on))
    };
    let differ = |made: &Result<(Sleeve, Sleeve, SetOn), Refused>| {
        made.as_ref().map_or(f64::NAN, |(one, other, _)| one.underarm.length() - other.underarm.length())
    };
    let straight = back.overarm(asked.length, steep[1]);
    let plain = both(&straight, 0.0).map_err(|refused| refused.said(asked, opening, style))?;
    let off = differ(&Ok(plain));
    let most = MOST_TILT.to_radians();
    if let Some(tilt) = root_where_drawn(|tilt| differ(&both(&straight, tilt)), -most, most) {
        return both(&straight, tilt).map_err(|refused| refused.said(asked, opening, style));
    }
    // What the tilt does not give, the back's fall does.
    let by_the_back = |tilt: f64| {
        let of = |steep: f64| back.overarm(asked.length, steep);
        let (low, high) = (
            (steep[1] - MOST_BACK.to_radians()).max(back.slope()),
            (steep[1] + MOST_BACK.to_radians()).min(STEEPEST.to_radians()),
        );
        let found = root_where_drawn(|steep| differ(&both(&of(steep), tilt)), low, high)?;
        both(&of(found), tilt).ok()
    };
    [most, -most].into_iter().find_map(by_the_back).ok_or_else(|| {
        let (longer, shorter) = if off > 0.0 { ("front", "back") } else { ("back", "front") };
        AlterError::not_here(format!(
            "the underarm seam comes out {} longer in {longer} than in {shorter}: balance the side seams first",
            style.with_unit(off.abs())
        ))
    })
}

/// Where a figure is nothing between two ends, looked for step by step: it is no number where the sleeve cannot be drawn.
fn root_where_drawn(f: impl Fn(f64) -> f64, low: f64, high: f64) -> Option<f64> {
    const STEPS: u32 = 8;
    let at = |step: u32| low + (high - low) * f64::from(step) / f64::from(STEPS);
    (0..STEPS).find_map(|step| root(&f, at(step), at(step + 1)))
}

/// The least way down the side seam at which both sleeves together are as wide as her arm wants it; where that comes too near
/// to the waist, as low as may be if it is wide enough there.
fn set_on(front: &Body, back: &Body, over: (&Overarm, &Overarm), asked: &Asked) -> Option<SetOn> {
    let wide = |lower: f64| {
        over.0.distance(front.side.point_at(lower)) + over.1.distance(back.side.point_at(lower))
            - (asked.upper_arm + ROOM)
    };
    let lowest = front.to_waist.min(back.to_waist) - ABOVE_WAIST;
    if lowest < LEAST_LOWER {
        return None;
    }
    let narrower = -wide(lowest);
    if narrower > 0.0 {
        return (narrower <= ROOM - LEAST_ROOM).then_some(SetOn { lower: lowest, narrower });
    }
    let lower = if wide(LEAST_LOWER) >= 0.0 { LEAST_LOWER } else { root(wide, LEAST_LOWER, lowest)? };
    Some(SetOn { lower, narrower: 0.0 })
}

/// The least sleeve, from the shoulder point, that ends beyond where it is set on.
fn least(body: &Body, over: &Overarm, lower: f64) -> f64 {
    over.along(body.side.point_at(lower)) + 2.0 * STRAIGHT + LEAST_UNDERARM
}

/// Why front and back cannot be drawn.
enum Refused {
    /// The sleeve would be set on too near to the waist.
    TooLow,
    /// One of them does not close; and the least length that ends beyond where it is set on.
    Unfit(Unfit, f64),
}

impl Refused {
    fn said(self, asked: &Asked, opening: f64, style: Style) -> AlterError {
        AlterError::not_here(match self {
            Self::TooLow => format!(
                "a sleeve {} wide would have to be set on less than {} above the waist: a sleeve that is set in suits her better",
                style.with_unit(asked.upper_arm + LEAST_ROOM),
                style.with_unit(ABOVE_WAIST)
            ),
            Self::Unfit(Unfit::Short, least) => format!(
                "a sleeve that ends {} from the nape ends before the underarm: at least {}",
                style.with_unit(asked.to_shoulder + asked.length),
                style.with_unit(asked.to_shoulder + least)
            ),
            Self::Unfit(unfit @ (Unfit::Wide | Unfit::Narrow), _) => format!(
                "an edge of {} turns the underarm seam there by more than {MOST_TURN:.0}\u{b0}: a {} edge, or a longer sleeve",
                style.with_unit(opening),
                if unfit == Unfit::Wide { "narrower" } else { "wider" }
            ),
            Self::Unfit(Unfit::Near, _) => format!(
                "an edge of {} leaves no room under the arm between sleeve and side: a narrower edge, or a sleeve that falls less",
                style.with_unit(opening)
            ),
        })
    }
}

/// The piece without darts in what becomes the sleeve: in front they are turned into the waist dart, or into the neckline where
/// the piece goes on below the waist. The dart of a back's shoulder stays to be drawn over: its fullness falls into the sleeve.
fn with_darts_turned_away(piece: &Piece) -> Result<Piece, AlterError> {
    let is_in_the_way = |place: &DartPlace| {
        piece.dart(*place).is_some() && (piece.kind.is_front() || *place != DartPlace::Shoulder)
    };
    let in_the_way: Vec<_> = [DartPlace::Side, DartPlace::Armhole, DartPlace::Shoulder]
        .into_iter()
        .filter(is_in_the_way)
        .collect();
    let goes_on = piece.level(LevelName::Waist).is_some();
    // A waist dart that points elsewhere is drawn up to the bust point first; a second one beside it stays one by itself where
    // the first takes them as it is.
    let stops_short = |place: &DartPlace| {
        let pivots = piece.dart(*place).zip(piece.dart(DartPlace::Waist));
        pivots.is_some_and(|(dart, waist)| dart.pivot.distance(waist.pivot) > 1.0)
    };
    let mut after = piece.clone();
    if !goes_on && in_the_way.iter().any(stops_short) {
        (after, _) = with_one_dart(piece, Begins::Shoulder)?;
    }
    for from in in_the_way {
        if after.dart(from).is_some() {
            let to = if goes_on { DartPlace::Neckline } else { DartPlace::Waist };
            (_, after) = moved(&after, from, to, 1.0, None)?;
        }
        if from == DartPlace::Side {
            true_closed_side(&mut after);
        }
    }
    Ok(after)
}

/// How far a direction towards the side falls below level, in radians.
fn slope(along: Vec2) -> f64 {
    along.y.atan2(along.x)
}
