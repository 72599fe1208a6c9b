//! Lengths, areas and turns by libraries that share no code with this one: geo and lyon_geom.

use crate::common::worked_body;
use geo::{Area, Coord, Euclidean, Length, LineString, Polygon, Rotate};
use kurbo::{Affine, PathSeg, Shape};
use lyon_geom::{CubicBezierSegment, point};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, make};
use yardwand_core::draft::{Direct, Method, MethodKind, draft, draft_direct};
use yardwand_core::geometry::Curve;
use yardwand_core::pattern::{Pattern, Seam, angles};

/// A block by every method with its sleeve, and one that has been altered.
fn patterns() -> Vec<Pattern> {
    let body = worked_body()
        .with("upper_arm_girth", 284.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("hip_girth", 1000.0)
        .with("waist_to_hip", 205.0);
    let drafted = MethodKind::ALL.map(|kind| {
        draft(&body, &Method { kind, with_sleeve: true, ..Method::default() }, Style::EIGHTHS)
            .unwrap()
            .pattern
    });
    let block = draft_direct(&worked_body(), &Direct::default(), Style::EIGHTHS).unwrap().pattern;
    let recipe = Recipe::default().and("full_bust", Amounts::of(25.4), "").and(
        "shoulder_length",
        Amounts::of(9.5),
        "",
    );
    let altered = make(&block, &recipe, Style::EIGHTHS).pattern;
    drafted.into_iter().chain([block, altered]).collect()
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
            for seam in [
                Seam::Neckline,
                Seam::Shoulder,
                Seam::Armhole,
                Seam::Side,
                Seam::Waist,
                Seam::Hem,
                Seam::Cap,
                Seam::UnderSleeve,
                Seam::CentreFront,
                Seam::CentreBack,
            ] {
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

/// Slopes and dart angles, by geo's own triangle: the angle at the apex from three lengths (law of cosines).
#[test]
fn every_angle_is_the_one_geo_measures_within_a_twentieth_of_a_degree() {
    let distance = |a: kurbo::Point, b: kurbo::Point| {
        Euclidean.length(&LineString(vec![Coord { x: a.x, y: a.y }, Coord { x: b.x, y: b.y }]))
    };
    let mut seen = 0;
    for pattern in patterns() {
        let ours = angles(&pattern);
        let of = |name: &str| ours.iter().find(|(known, _)| known == name).map(|(_, degrees)| *degrees);
        for piece in &pattern.pieces {
            let kind = piece.kind.name().to_lowercase();
            for dart in &piece.darts {
                let (first, second) = piece.mouth(dart.place).unwrap();
                let (a, b) = (distance(dart.pivot, first), distance(dart.pivot, second));
                let mouth = distance(first, second);
                let geo = ((a * a + b * b - mouth * mouth) / (2.0 * a * b)).acos().to_degrees();
                let ours = of(&format!("{kind}, {}", dart.place.name())).unwrap();
                assert!((geo - ours).abs() < 0.05, "{kind} {:?}: {ours}, geo {geo}", dart.place);
                seen += 1;
            }
            if let Some(shoulder) = piece.edges_of(Seam::Shoulder).next() {
                let (from, to) = (shoulder.curve.start(), shoulder.curve.end());
                let geo = ((to.y - from.y) / distance(from, to)).asin().to_degrees();
                let ours = of(&format!("{kind}, shoulder slope")).unwrap();
                assert!((geo - ours).abs() < 0.05, "{kind}: {ours}, geo {geo}");
                seen += 1;
            }
        }
    }
    assert!(seen > 20, "{seen}");
}
