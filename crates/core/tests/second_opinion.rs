//! Lengths, areas and turns by libraries that share no code with this one: geo and lyon_geom.

mod common;

use common::worked_body;
use geo::{Area, Coord, Euclidean, Length, LineString, Polygon, Rotate};
use kurbo::{Affine, PathSeg, Shape};
use lyon_geom::{CubicBezierSegment, point};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, make};
use yardwand_core::draft::{Direct, draft_direct};
use yardwand_core::pattern::{Curve, Pattern, Seam};

fn patterns() -> [Pattern; 2] {
    let block = draft_direct(&worked_body(), &Direct::default(), Style::EIGHTHS).unwrap().pattern;
    let recipe = Recipe::default().and("full_bust", Amounts::of(25.4), "").and(
        "shoulder_length",
        Amounts::of(9.5),
        "",
    );
    let altered = make(&block, &recipe, Style::EIGHTHS).pattern;
    [block, altered]
}

fn lyon_length(curve: &Curve) -> f64 {
    let of = |seg: &PathSeg| match seg {
        PathSeg::Line(line) => (line.p1.x - line.p0.x).hypot(line.p1.y - line.p0.y),
        PathSeg::Cubic(c) => CubicBezierSegment {
            from: point(c.p0.x, c.p0.y),
            ctrl1: point(c.p1.x, c.p1.y),
            ctrl2: point(c.p2.x, c.p2.y),
            to: point(c.p3.x, c.p3.y),
        }
        .approximate_length(1e-7),
        PathSeg::Quad(_) => panic!("no seam is drawn with these"),
    };
    curve.segments().iter().map(of).sum()
}

#[test]
fn every_seam_is_as_long_for_lyon_within_a_twentieth() {
    for pattern in patterns() {
        for piece in &pattern.pieces {
            for seam in [Seam::Neckline, Seam::Shoulder, Seam::Armhole, Seam::Side, Seam::Waist] {
                let lyon: f64 = piece.edges_of(seam).map(|edge| lyon_length(&edge.curve)).sum();
                let ours = piece.sewn_length(seam);
                assert!((lyon - ours).abs() < 0.05, "{:?} {}: {ours}, lyon {lyon}", piece.kind, seam.name());
            }
        }
    }
}

#[test]
fn every_piece_has_the_area_geo_measures_within_a_thousandth() {
    for pattern in patterns() {
        for piece in &pattern.pieces {
            let at = |seg: &PathSeg, i: u32| {
                let p = kurbo::ParamCurve::eval(seg, f64::from(i) / 64.0);
                Coord { x: p.x, y: p.y }
            };
            let ring: Vec<Coord> = piece
                .edges
                .iter()
                .flat_map(|e| e.curve.segments())
                .flat_map(|seg| (0..64).map(move |i| at(seg, i)))
                .collect();
            let geo = Polygon::new(LineString(ring), Vec::new()).unsigned_area();
            let ours = piece.outline().area().abs();
            assert!((geo - ours).abs() / ours < 1e-3, "{:?}: {ours}, geo {geo}", piece.kind);
        }
    }
}

/// Check values, section 6: a pivot keeps area, perimeter and seam lengths.
#[test]
fn a_turn_is_the_turn_geo_makes() {
    let points: [(f64, f64); 7] =
        [(0., 60.), (0., 400.), (230., 400.), (245., 215.), (180., 150.), (185., 45.), (70., 0.)];
    let ring = Polygon::new(LineString(points.iter().map(|&(x, y)| Coord { x, y }).collect()), Vec::new());
    assert!((ring.unsigned_area() - 80550.0).abs() < 1e-6);
    assert!((Euclidean.length(ring.exterior()) - 1168.336).abs() < 5e-4);
    let geo = ring.rotate_around_point(12.5, geo::Point::new(95.0, 265.0)).exterior().0[0];
    let ours = Affine::rotate_about(12.5f64.to_radians(), (95.0, 265.0)) * kurbo::Point::new(0.0, 60.0);
    assert!((geo.x - 46.622).abs() < 5e-4 && (geo.y - 44.298).abs() < 5e-4, "{geo:?}");
    assert!((geo.x - ours.x).abs() < 1e-9 && (geo.y - ours.y).abs() < 1e-9);
}
