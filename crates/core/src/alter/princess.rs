//! Princess line: the front divided from the armhole over the bust point to the waist, a gaping armhole taken
//! up in the seam (handbook: `alterations.md`, section 2).

use kurbo::{Affine, Point};

use super::keeps::{BACK, Keeps};
use super::told::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Given, Handle, Layer, MeasuredOn, Param, StageKind, move_dart,
    pivot,
};
use crate::Style;
use crate::geometry::{Curve, quarter_turn};
use crate::geometry::{house_curve, root};
use crate::pattern::{
    DartPlace, Edge, Figure, GarmentPart, Level, LevelName, Notch, Pattern, Piece, PieceKind, Seam, measure,
    true_kinks,
};

/// The armhole is drawn anew this far above and below the seam, in millimetres.
const REDRAWN: f64 = 40.0;
/// Over the bust point the seam is drawn round this far above and below, in millimetres.
const BUST_REACH: f64 = 15.0;
/// A shortening of the armhole above this deserves a word, in millimetres.
const MUCH: f64 = 20.0;

/// Where tightening ends above the bust point, and the most of it each side, by bust; millimetres, linear between
/// (common practice, no source).
const BY_BUST: [(f64, f64, f64); 4] =
    [(914.0, 25.0, 13.0), (965.0, 32.0, 19.0), (1016.0, 38.0, 25.0), (1270.0, 51.0, 25.0)];

const PARAMS: [Param; 3] = [
    Param::amount(
        "Pinned gape",
        MeasuredOn::Pinned,
        (0.0, 60.0),
        "The whole gape pinned at the armhole: half of it is taken on either side of the seam. Nothing keeps the line without \
         tightening it.",
    ),
    Param::share(
        "place",
        "Where on the armhole",
        (0.3, 0.75),
        Some(0.5),
        "Where the seam leaves the armhole, as a share of it from the shoulder tip.",
    ),
    Param::place(
        "above",
        "Ends above the bust point",
        (15.0, 70.0),
        None,
        "How far above the bust point the tightening ends. Left out, by her bust.",
    ),
];

const ABOUT: About = About {
    code: "princess_line",
    name: "Princess line",
    why: "The front is divided over the bust; a gaping armhole is taken up in the seam. It comes after all other alterations \
         of the front.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::DartLeg],
    wants: "a princess line divides a bodice front with a waist dart, and a side dart at most: this pattern has none",
    layer: Layer::Shape,
};

/// A front divided into a centre and a side panel.
pub(super) struct PrincessLine;

impl Alteration for PrincessLine {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.front().is_some_and(|front| {
            front.kind.part() == GarmentPart::BodiceFront
                && front.dart(DartPlace::Waist).is_some()
                && front.darts.iter().all(|dart| matches!(dart.place, DartPlace::Waist | DartPlace::Side))
        })
    }

    fn keeps(&self, _: &Given<'_>) -> Keeps {
        Keeps::exactly(&[
            BACK,
            &[
                Figure::NecklineFront,
                Figure::ShoulderFront,
                Figure::SideFront,
                Figure::Waist,
                Figure::CentreFront,
            ],
        ])
    }

    fn grows(&self, _: &Given<'_>) -> Vec<(Figure, f64)> {
        Vec::new()
    }

    fn is_nothing(&self, _: &Given<'_>) -> bool {
        // Without tightening the front is still divided.
        false
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, given: &Given<'_>) -> Option<Handle> {
        super::gape::gripped(pattern, Seam::Armhole, given.of("place"))
    }

    fn alter(&self, pattern: &Pattern, given: &Given<'_>, style: Style) -> Result<Altered, AlterError> {
        let front = pattern.front().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let bust = measure(pattern).get(Figure::Bust).unwrap_or(BY_BUST[0].0);
        let (usual_above, most) = by_bust(bust);
        let tighten = given.amount() / 2.0;
        if tighten > most {
            return Err(AlterError::beyond(
                style,
                given.amount(),
                2.0 * most,
                "that a princess seam takes up at this bust",
                "take the rest out as a full bust alteration or a gape into the dart first",
            ));
        }
        let whole = with_one_dart(front)?;
        let line = StyleLine::of(&whole, given.of("place"), given.number("above").unwrap_or(usual_above))?;
        let divided = line.divide(&whole, tighten)?;
        let shorter = front.flat_length(Seam::Armhole)
            - divided.centre.flat_length(Seam::Armhole)
            - divided.side.flat_length(Seam::Armhole);
        let words = words(tighten, style);
        let work =
            PieceWork::drawn(front, front.clone()).with_curve(&line.curve).with_hinge(line.end_of_tightening);
        let mut done = altered(pattern, &[work], &words);
        done.told.became = vec![divided.centre.clone(), divided.side.clone()];
        done.pattern = replaced(pattern, front.kind, &divided);
        done.taped = done.pattern.clone();
        let says = format!("The front armhole is {} shorter by the princess seam.", style.with_unit(shorter));
        let much =
            if shorter > MUCH { " That is much: look whether the bust wants room instead." } else { "" };
        if tighten > 0.0 {
            done = done.and(FollowUp::reminder(format!("{says}{much}")));
        }
        Ok(done.and(FollowUp::reminder(
            "Facings and linings of the front are divided along the same line; a loose coat keeps it without tightening.",
        )))
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

/// The front with all its shaping in the waist dart: the seam takes the dart's place.
fn with_one_dart(front: &Piece) -> Result<Piece, AlterError> {
    if front.dart(DartPlace::Side).is_none() {
        return Ok(front.clone());
    }
    Ok(move_dart::moved(front, DartPlace::Side, DartPlace::Waist, 1.0, None)?.1)
}

/// The line of the seam from the armhole to the bust point.
struct StyleLine {
    armhole: usize,
    along: f64,
    curve: Curve,
    bust: Point,
    end_of_tightening: Point,
    upper_length: f64,
}

struct Divided {
    centre: Piece,
    side: Piece,
}

impl StyleLine {
    fn of(front: &Piece, share: f64, above: f64) -> Result<Self, AlterError> {
        let place = pivot::on_seam(front, Seam::Armhole, share)?;
        let armhole = &front.edges[place.edge].curve;
        let at = armhole.point_at(place.along);
        let inwards = quarter_turn(armhole.direction_at(place.along));
        let (dart, (first, second)) = front
            .dart(DartPlace::Waist)
            .zip(front.mouth(DartPlace::Waist))
            .ok_or_else(|| AlterError::no_seam(Seam::DartLeg))?;
        let axis = first.midpoint(second) - dart.pivot;
        let curve = house_curve(at, inwards, dart.pivot, axis).curve;
        let length = curve.length();
        if above > length * 0.8 {
            return Err(AlterError::not_here(
                "the seam is too short for that: end the tightening nearer to the bust point",
            ));
        }
        Ok(Self {
            armhole: place.edge,
            along: place.along,
            end_of_tightening: curve.point_at(length - above),
            upper_length: length - above,
            bust: dart.pivot,
            curve,
        })
    }

    /// Cuts the front along the line, each edge of its upper part turned away by `tighten` at the armhole; the
    /// armhole is drawn across the folded seam, so that no step is left when it is sewn.
    fn divide(&self, front: &Piece, tighten: f64) -> Result<Divided, AlterError> {
        let hinge = self.end_of_tightening;
        let (upper, lower) = self.curve.split(self.upper_length);
        let turn = (tighten / hinge.distance(self.curve.start())).asin();
        let up = Affine::rotate_about(-turn, hinge);
        let armhole = front.edges[self.armhole].curve.clone();
        let (above, below) =
            ((self.along - REDRAWN).max(1.0), (self.along + REDRAWN).min(armhole.length() - 1.0));
        let (kept_above, kept_below) = (armhole.split(above).0, armhole.split(below).1);
        let shut = Affine::rotate_about(-2.0 * turn, hinge);
        let to = shut * kept_below.start();
        let towards = (Affine::rotate(-2.0 * turn) * kept_below.start_direction().to_point()).to_vec2();
        let across = if tighten == 0.0 {
            armhole.between(above, below)
        } else {
            let third = kept_above.end().distance(to) / 3.0;
            let from = kept_above.end();
            Curve::cubic(from, from + kept_above.end_direction() * third, to - towards * third, to)
        };
        let seam_up = upper.transformed(up);
        let (on_armhole, on_seam) = meeting(&across, &seam_up).ok_or_else(|| {
            AlterError::not_here("the seam does not meet the armhole any more: a smaller gape")
        })?;
        let (to_seam, from_seam) = across.split(on_armhole);
        let (_, sewn_up) = seam_up.split(on_seam);
        let open = Affine::rotate_about(2.0 * turn, hinge);
        let cut = sewn_up.start();
        let centre_armhole = kept_above.then(to_seam).with_end(cut);
        let side_armhole = from_seam.with_start(cut).transformed(open).then(kept_below);
        let seam_down = sewn_up.transformed(open);
        Ok(Divided {
            centre: self.centre_panel(front, centre_armhole, sewn_up.then(lower.clone())),
            side: self.side_panel(front, side_armhole, seam_down.then(lower)),
        })
    }

    fn centre_panel(&self, front: &Piece, armhole: Curve, seam: Curve) -> Piece {
        let legs = dart_leg(front);
        let mut edges: Vec<Edge> = front.edges[..self.armhole].to_vec();
        edges.push(Edge::sewn(Seam::Armhole, armhole));
        let foot = front.edges[legs + 1].curve.end();
        let seam = seam.then(Curve::line(self.bust, foot));
        edges.push(Edge::sewn(Seam::Princess, seam));
        edges.extend(front.edges[legs + 2..].iter().cloned());
        let notches = self.notches(front, &edges, true);
        smoothed(Piece {
            kind: front.kind.as_part(GarmentPart::CentrePanel),
            edges,
            darts: Vec::new(),
            levels: bust_level(front, true),
            notches,
            ..front.clone()
        })
    }

    fn side_panel(&self, front: &Piece, armhole: Curve, seam: Curve) -> Piece {
        let legs = dart_leg(front);
        let mut edges = vec![Edge::sewn(Seam::Armhole, armhole)];
        edges.extend(front.edges[self.armhole + 1..legs].iter().cloned());
        let foot = front.edges[legs].curve.start();
        let seam = seam.then(Curve::line(self.bust, foot)).reversed();
        edges.push(Edge::sewn(Seam::Princess, seam));
        let notches = self.notches(front, &edges, false);
        let x = self.bust.x.midpoint(front.underarm().x);
        smoothed(Piece {
            kind: front.kind.as_part(GarmentPart::SidePanel),
            grain: (Point::new(x, self.bust.y), Point::new(x, self.bust.y + 100.0)),
            edges,
            darts: Vec::new(),
            levels: bust_level(front, false),
            notches,
            ..front.clone()
        })
    }

    /// The old notches that are still on the panel, and where tightening ends on the seam.
    fn notches(&self, front: &Piece, edges: &[Edge], centre: bool) -> Vec<Notch> {
        let length = |seam| edges.iter().filter(|e| e.seam == seam).map(|e| e.curve.length()).sum::<f64>();
        let seam = length(Seam::Princess);
        let waist = self.bust.distance(front.edges[dart_leg(front)].curve.start());
        let above = self.curve.length() - self.upper_length;
        let mut notches: Vec<Notch> = front
            .notches
            .iter()
            .filter(|notch| match notch.seam {
                // Named from the underarm: on the side panel as far as it reaches, above that on the centre panel.
                Seam::Armhole => (notch.from_underarm > self.side_armhole(front)) == centre,
                Seam::Side => !centre,
                Seam::Princess | Seam::DartLeg => false,
                _ => centre,
            })
            .copied()
            .collect();
        if centre {
            let gone = self.side_armhole(front);
            for notch in notches.iter_mut().filter(|notch| notch.seam == Seam::Armhole) {
                notch.from_underarm -= gone;
            }
        }
        // At the end of the tightening and at the bust point; a seam is walked from its armhole end.
        for from_waist in [waist + above, waist] {
            notches.push(Notch { seam: Seam::Princess, from_underarm: seam - from_waist, double: false });
        }
        notches
    }

    fn side_armhole(&self, front: &Piece) -> f64 {
        front.flat_length(Seam::Armhole) - self.along
    }
}

/// The panel with its seam drawn round over the bust point, where the line turns into the dart's leg, and
/// round where tightening ends.
fn smoothed(mut panel: Piece) -> Piece {
    true_kinks(&mut panel, Seam::Princess, BUST_REACH);
    panel
}

/// The first leg of the waist dart, by its index.
fn dart_leg(front: &Piece) -> usize {
    front.edges.iter().position(|edge| edge.dart == Some(DartPlace::Waist)).unwrap_or(0)
}

fn bust_level(front: &Piece, centre: bool) -> Vec<Level> {
    let of = |level: &Level| -> Option<Level> {
        let [first, middle, last] = level.points.as_slice() else { return None };
        let points = if centre { vec![*first, *middle] } else { vec![*middle, *last] };
        Some(Level { name: LevelName::Bust, points })
    };
    front.level(LevelName::Bust).and_then(of).into_iter().collect()
}

/// Where two curves cross: arc lengths on the one and the other. The second may have to be drawn on a little
/// beyond its start.
fn meeting(one: &Curve, other: &Curve) -> Option<(f64, f64)> {
    let start = other.start();
    let drawn_on = Curve::line(start - other.start_direction() * 30.0, start).then(other.clone());
    let signed = |s: f64| {
        let at = one.point_at(s);
        let along = drawn_on.nearest(at);
        let (foot, direction) = (drawn_on.point_at(along), drawn_on.direction_at(along));
        direction.cross(at - foot)
    };
    let s = root(signed, 0.0, one.length())?;
    let at = one.point_at(s);
    let along = drawn_on.nearest(at) - 30.0;
    // A seam that ends inside is prolonged by the armhole being drawn to its end.
    Some((s, along.max(0.0)))
}

fn replaced(pattern: &Pattern, kind: PieceKind, divided: &Divided) -> Pattern {
    let mut pieces = Vec::with_capacity(pattern.pieces.len() + 1);
    for piece in &pattern.pieces {
        if piece.kind == kind {
            pieces.extend([divided.centre.clone(), divided.side.clone()]);
        } else {
            pieces.push(piece.clone());
        }
    }
    Pattern { pieces, ..pattern.clone() }
}

fn words(tighten: f64, style: Style) -> [(StageKind, String); 3] {
    let amount = style.with_unit(tighten);
    let taken = if tighten > 0.0 {
        format!(
            "Above the ring turn each edge away by {amount} at the armhole, up on the centre panel and down on the side panel."
        )
    } else {
        "Nothing is taken up: the two edges run together.".to_owned()
    };
    [
        (
            StageKind::Mark,
            "Draw the line from the armhole, square into the piece, to the bust point and on down the waist dart. Mark the ring \
             where tightening ends, with notches across."
                .to_owned(),
        ),
        (StageKind::Move, taken),
        (
            StageKind::True,
            "Fold the seam shut, draw the armhole across it, and cut both panels along that line. Walk the panels: they are \
             equally long by construction."
                .to_owned(),
        ),
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

    #[test]
    fn curves_are_found_to_cross_where_they_do() {
        let level = Curve::line((0., 10.).into(), (100., 10.).into());
        let down = Curve::line((40., 12.).into(), (40., 60.).into());
        let (s, along) = meeting(&level, &down).unwrap();
        assert!((s - 40.0).abs() < 1e-6 && along == 0.0);
    }
}
