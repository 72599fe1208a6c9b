//! The cutting line, read by another geometry library (`geo`): on fresh drafts and altered pieces, with allowances
//! from nothing to the widest by edge, it stands its allowance off every millimetre and loses no seam.

use crate::common::{Chance, bodies};
use geo::{Area, BoundingRect, Contains, Distance, Euclidean, LineString, Point, Polygon, Validation};
use kurbo::{BezPath, ParamCurve, PathEl};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, make};
use yardwand_core::body::Body;
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::pattern::{
    Allowances, CheckCode, Pattern, Piece, Seam, capped_outline, check_pattern, cut_line,
};

/// How far from its allowance a cutting line may stand, in millimetres (handbook, `blocks.md`, rule 8).
const TOLERANCE: f64 = 0.05;

fn line_string(points: impl IntoIterator<Item = kurbo::Point>) -> LineString {
    points.into_iter().map(|p| (p.x, p.y)).collect()
}

fn polygon(path: &BezPath) -> Polygon {
    let points = path.elements().iter().filter_map(|el| match el {
        PathEl::MoveTo(p) | PathEl::LineTo(p) => Some(*p),
        _ => None,
    });
    Polygon::new(line_string(points), Vec::new())
}

struct Net {
    line: LineString,
    ends: [Point; 2],
    out: f64,
    fold: bool,
}

/// Every edge drawn by evaluating its segments: not by the flattening that the cutting line itself uses.
fn net_of(piece: &Piece, allowances: &Allowances) -> Vec<Net> {
    let outline = capped_outline(piece);
    let edges = outline.iter().filter(|(edge, _)| edge.curve.length() > 1e-3);
    edges
        .map(|(edge, _)| {
            let points = edge.curve.segments().iter().flat_map(|seg| {
                let n = if edge.curve.is_straight() { 1 } else { 40 };
                (0..=n).map(move |i| seg.eval(f64::from(i) / f64::from(n)))
            });
            let ends = [edge.curve.start(), edge.curve.end()].map(|p| Point::new(p.x, p.y));
            Net { line: line_string(points), ends, out: allowances.on(piece, edge), fold: edge.fold }
        })
        .collect()
}

/// Edges of one allowance that follow each other, as one line: a dart's cap is no corner of its seam.
fn runs_of(net: &[Net]) -> Vec<Net> {
    let mut runs: Vec<Net> = Vec::new();
    for edge in net {
        match runs.last_mut().filter(|run| !run.fold && !edge.fold && run.out == edge.out) {
            Some(run) => {
                run.line.0.extend(edge.line.0.iter().skip(1));
                run.ends[1] = edge.ends[1];
            }
            None => {
                runs.push(Net { line: edge.line.clone(), ends: edge.ends, out: edge.out, fold: edge.fold })
            }
        }
    }
    runs
}

/// Every fault of a piece's cutting line that a reader from outside finds.
pub(crate) fn faults(piece: &Piece, allowances: &Allowances) -> Vec<String> {
    let net = net_of(piece, allowances);
    let runs = runs_of(&net);
    let cut = polygon(&cut_line(piece, allowances));
    let mut faults = Vec::new();
    if !cut.is_valid() {
        faults.push("the cutting line crosses itself".to_owned());
    }
    let widest = net.iter().map(|edge| edge.out).fold(0.0, f64::max);
    for side in cut.exterior().lines() {
        let steps = (side.dx().hypot(side.dy()).ceil() as usize).max(1);
        for n in 0..steps {
            let t = (n as f64 + 0.5) / steps as f64;
            let at = Point::new(side.start.x + side.dx() * t, side.start.y + side.dy() * t);
            let offs = |of: &[Net]| of.iter().map(|e| Euclidean.distance(&at, &e.line)).collect::<Vec<f64>>();
            // Along a fold the cloth goes on; about a corner the line stands further out than either allowance, at
            // most three of the wider, and no nearer than the smaller.
            if net.iter().any(|edge| edge.fold && (at.x() - edge.ends[0].x()).abs() < TOLERANCE) {
                continue;
            }
            let corner = |(edge, off): &(&Net, f64)| {
                edge.ends.into_iter().find(|end| Euclidean.distance(&at, end) < off + 0.02)
            };
            let belongs = |each: &(&Net, f64)| {
                (each.1 - each.0.out).abs() <= TOLERANCE
                    || corner(each).is_some() && each.1 <= 3.0 * widest + 1.0
            };
            let each: Vec<(&Net, f64)> = net.iter().zip(offs(&net)).collect();
            if !each.iter().any(belongs) {
                faults.push(format!("{at:?} belongs to no seam"));
            }
            let near: Vec<(&Net, f64)> = runs.iter().zip(offs(&runs)).collect();
            for (edge, off) in near.iter().filter(|each| !each.0.fold) {
                let is_end =
                    |ends: &[Point; 2], at: Point| ends.iter().any(|end| Euclidean.distance(end, &at) < 0.01);
                let own = corner(&(*edge, *off));
                let neighbours = near.iter().filter(|each| {
                    corner(each).is_some_and(|at| is_end(&edge.ends, at))
                        || own.is_some_and(|at| is_end(&each.0.ends, at))
                });
                // Through the piece itself a seam may lie as near as it likes.
                let nearest = edge
                    .line
                    .lines()
                    .min_by(|a, b| Euclidean.distance(&at, a).total_cmp(&Euclidean.distance(&at, b)));
                let through = nearest.is_some_and(|line| {
                    line.dx() * (at.y() - line.start.y) - line.dy() * (at.x() - line.start.x) > 0.0
                });
                if through && own.is_none() {
                    continue;
                }
                let least = neighbours.map(|(other, _)| other.out).fold(edge.out, f64::min);
                if *off < least - TOLERANCE {
                    faults.push(format!("{at:?} is {off:.2} off where {least:.2} is meant"));
                }
            }
        }
    }
    // A seam that is cut straight across leaves its own allowance unreached.
    for (edge, _) in capped_outline(piece).iter().filter(|(edge, _)| !edge.fold) {
        let out = allowances.on(piece, edge);
        for n in 1..edge.curve.length() as usize {
            let (at, along) = (edge.curve.point_at(n as f64), edge.curve.direction_at(n as f64));
            let wanted = Point::new(at.x + along.y * out, at.y - along.x * out);
            let inside = net
                .iter()
                .filter(|other| !other.fold)
                .any(|other| Euclidean.distance(&wanted, &other.line) < other.out - 0.02);
            let beyond_fold = net.iter().any(|other| other.fold && wanted.x() < other.ends[0].x());
            let off = Euclidean.distance(&wanted, cut.exterior());
            if !inside && !beyond_fold && off > TOLERANCE + 0.02 && !cut.contains(&wanted) {
                faults.push(format!("{:?} {at:?}: its allowance is missed by {off:.2}", edge.seam));
            }
        }
    }
    faults
}

fn drafted(body: &Body, kind: MethodKind) -> Option<Pattern> {
    let method = Method { kind, with_sleeve: kind != MethodKind::Proportional, ..Method::default() };
    draft(body, &method, Style::EIGHTHS).ok().map(|draft| draft.pattern)
}

/// A recipe of up to three steps, thrown.
fn altered(pattern: Pattern, chance: &mut Chance) -> Pattern {
    let steps = [
        ("full_bust", 15.0),
        ("shoulder_length", 8.0),
        ("rounded_back", 12.0),
        ("forward_shoulder", 8.0),
        ("shoulder_slope", 8.0),
        ("side_seams", 10.0),
        ("gaping_armhole", 8.0),
        ("back_width", 10.0),
        ("neck", 6.0),
    ];
    let mut recipe = Recipe::default();
    for _ in 0..3 {
        let (code, most) = steps[((chance.even() + 1.0) * 0.5 * steps.len() as f64) as usize % steps.len()];
        recipe = recipe.and(code, Amounts::of(most * (0.6 + 0.4 * chance.even())), "");
    }
    make(&pattern, &recipe, Style::EIGHTHS).pattern
}

fn allowances(chance: &mut Chance) -> Allowances {
    let mut any = || (chance.even() + 1.0) * 0.5 * Allowances::MOST;
    Allowances {
        side: any(),
        shoulder: any(),
        waist: any(),
        neckline: any(),
        armhole: any(),
        centre: any(),
        hem: any(),
    }
}

/// Set to look at more than the usual 500 pieces.
const PIECES: &str = "YARDWAND_CUT_PIECES";

#[test]
fn every_cutting_line_stands_its_allowance_off_on_fresh_and_altered_pieces() {
    let wanted: usize = std::env::var(PIECES).ok().and_then(|n| n.parse().ok()).unwrap_or(500);
    let mut chance = Chance::new(31);
    let mut looked = 0;
    for (index, body) in bodies(wanted, 310).iter().enumerate() {
        let kind = MethodKind::ALL[index % MethodKind::ALL.len()];
        let Some(fresh) = drafted(body, kind) else { continue };
        let pattern = if index % 2 == 0 { fresh } else { altered(fresh, &mut chance) };
        // House widths, one width all round, and widths thrown by edge.
        let all_round = Allowances { neckline: 15.9, armhole: 15.9, ..Allowances::default() };
        let widths = [Allowances::default(), all_round, Allowances::NONE, allowances(&mut chance)];
        for piece in &pattern.pieces {
            let found = faults(piece, &widths[looked % widths.len()]);
            assert!(
                found.is_empty(),
                "body {index} {kind:?} {:?} {:?}: {} faults: {:#?}",
                piece.kind,
                widths[looked % widths.len()],
                found.len(),
                &found[..found.len().min(6)]
            );
            looked += 1;
        }
        if looked >= wanted {
            break;
        }
    }
    assert!(looked >= wanted, "only {looked} pieces were looked at");
}

/// A body on which the back neckline was once cut straight across, 19 to 28 mm out.
#[test]
fn a_narrow_neckline_keeps_its_seam() {
    let body: Body = [
        ("bust_girth", 979.3),
        ("upper_bust_girth", 918.2),
        ("waist_girth", 876.8),
        ("hip_girth", 980.8),
        ("neck_base_girth", 356.1),
        ("shoulder_width", 404.2),
        ("shoulder_length", 117.8),
        ("shoulder_slope", 51.0),
        ("across_front", 331.4),
        ("across_back", 349.0),
        ("bust_span", 178.5),
        ("snp_to_bust_point", 278.1),
        ("snp_to_waist_front", 460.4),
        ("snp_to_waist_back", 423.0),
        ("nape_to_waist_back", 401.5),
        ("armhole_depth", 194.5),
        ("side_length", 189.3),
    ]
    .into_iter()
    .collect();
    let pattern = draft(&body, &Method::default(), Style::EIGHTHS).unwrap().pattern;
    let back = pattern.back().unwrap();
    let cut = polygon(&cut_line(back, &Allowances::default()));
    let neckline = back.edges.iter().find(|edge| edge.seam == Seam::Neckline).unwrap();
    // Near the fold the line on it is nearer.
    for n in 4..=17 {
        let at = neckline.curve.point_at(neckline.curve.length() * f64::from(n) / 20.0);
        let off = Euclidean.distance(&Point::new(at.x, at.y), cut.exterior());
        assert!((off - 9.5).abs() < TOLERANCE, "{n}: {off}");
    }
}

#[test]
fn without_allowance_the_cutting_line_is_the_net_line() {
    let pattern = drafted(&bodies(1, 4)[0], MethodKind::Dress).unwrap();
    for piece in &pattern.pieces {
        let (net, cut) = (net_of(piece, &Allowances::NONE), polygon(&cut_line(piece, &Allowances::NONE)));
        let ring: LineString = net.iter().flat_map(|edge| edge.line.points().map(|p| p.0)).collect();
        let net = Polygon::new(ring, Vec::new());
        assert!((net.unsigned_area() - cut.unsigned_area()).abs() < 25.0);
        assert_eq!(
            net.bounding_rect().map(|r| r.width().round()),
            cut.bounding_rect().map(|r| r.width().round())
        );
        for p in net.exterior().points() {
            assert!(Euclidean.distance(&p, cut.exterior()) < TOLERANCE);
        }
    }
}

/// The rule itself can fail: an allowance wider than the neck is round leaves no seam there to cut along.
#[test]
fn the_rule_finds_a_cutting_line_that_cannot_be() {
    let pattern = drafted(&bodies(1, 4)[0], MethodKind::Direct).unwrap();
    let sound =
        check_pattern(&pattern, Style::EIGHTHS).into_iter().find(|c| c.code == CheckCode::CutLine).unwrap();
    assert!(sound.passed, "{sound:?}");
    assert_eq!(sound.rule, 8);
    let mut spoilt = pattern;
    for piece in &mut spoilt.pieces {
        // Turned round, every allowance falls to the inside.
        piece.edges.reverse();
        for edge in &mut piece.edges {
            edge.curve = edge.curve.reversed();
        }
    }
    let spoilt =
        check_pattern(&spoilt, Style::EIGHTHS).into_iter().find(|c| c.code == CheckCode::CutLine).unwrap();
    assert!(!spoilt.passed && !spoilt.faults.is_empty(), "{spoilt:?}");
}
