//! A fold or a wedge along a level, full at the centre line and nothing at the side seam: what lies below rises or sinks, the
//! centre line stays straight.

use kurbo::{Point, Vec2};

use super::AlterError;
use super::pivot::nearest_on_seam;
use crate::geometry::{Curve, reshape_ends};
use crate::pattern::{Join, Motion, Part, Piece, Place, Seam, Slash};

/// Where it lies on a piece.
pub(super) struct FoldedAcross<'a> {
    pub(super) piece: &'a Piece,
    /// The centre line's seam.
    seam: Seam,
    /// Its ends: on the centre line and at the side.
    pub(super) centre: Point,
    side: Point,
}

impl<'a> FoldedAcross<'a> {
    /// Along a level of a piece. `None` where its centre line or its side does not come to it.
    pub(super) fn at(piece: &'a Piece, seam: Seam, level: f64) -> Option<Self> {
        let on = |seam: Seam| {
            piece.edges_of(seam).find_map(|edge| Some(edge.curve.point_at(edge.curve.crossing_level(level)?)))
        };
        Some(Self { piece, seam, centre: on(seam)?, side: on(Seam::Side)? })
    }

    /// Between two points: on the centre line and at the side.
    pub(super) const fn between(piece: &'a Piece, seam: Seam, centre: Point, side: Point) -> Self {
        Self { piece, seam, centre, side }
    }

    /// Cut from the centre line to a hinge on the side seam; what lies below rises by so much at the centre, in millimetres.
    pub(super) fn slash(&self, by: f64) -> Result<Slash, AlterError> {
        let hinge = nearest_on_seam(self.piece, Seam::Side, self.side)?;
        let cut = nearest_on_seam(self.piece, self.seam, self.centre)?;
        let at = |place: Place| self.piece.edges[place.edge].curve.point_at(place.along);
        let (about, width) = (at(hinge), self.side.distance(self.centre));
        // Clockwise to the eye the centre, to the left of the hinge, rises.
        let turn = Motion::Turn { about, by: (by / width).asin() };
        let above = Part { from: cut, to: hinge, inner: vec![about, at(cut)], motion: Motion::Still };
        let below = Part { from: hinge, to: cut, inner: vec![at(cut), about], motion: turn };
        Ok(Slash { parts: vec![(above, Join::Meet), (below, Join::Across)] })
    }

    /// How a point below the level moves where the centre rises by so much: full there, nothing at the side.
    fn lift(&self, by: f64, point: Point) -> Vec2 {
        let share = 1.0 - (point.x - self.centre.x) / (self.side.x - self.centre.x);
        Vec2::new(0.0, -by * share.max(0.0))
    }

    /// The piece with what lies below the level risen by so much at the centre, in millimetres; negative lets it down. The
    /// centre line is straight up to the level, the side seam stays.
    pub(super) fn risen(&self, by: f64) -> Piece {
        let mut after = self.piece.clone();
        if let Some(hem) = after.first_edge(Seam::Hem) {
            let line = &after.edges[hem].curve;
            after.edges[hem].curve = reshape_ends(line, Vec2::ZERO, self.lift(by, line.end()));
            let end = after.edges[hem].curve.end();
            if let Some(centre) = after.first_edge(self.seam) {
                let old = &after.edges[centre].curve;
                // Straight up to the level; a centre line that is shaped above it keeps its shape there.
                let above = old.crossing_level(self.centre.y - by).map(|along| old.split(along).1);
                let drawn = match above.filter(|above| !above.is_straight()) {
                    Some(above) => Curve::line(end, above.start()).then(above),
                    None => Curve::line(end, old.end()),
                };
                after.edges[centre].curve = drawn;
            }
        }
        let level = self.centre.y - 0.01;
        for dart in &mut after.two_pointed {
            // Both ends of a mouth alike, so that the legs stay equal.
            if dart.first.midpoint(dart.second).y >= level {
                let rise = self.lift(by, dart.first.midpoint(dart.second));
                dart.first += rise;
                dart.second += rise;
                dart.lower += rise;
            }
        }
        for point in after.levels.iter_mut().flat_map(|level| &mut level.points) {
            if point.y >= level {
                *point += self.lift(by, *point);
            }
        }
        after
    }
}
