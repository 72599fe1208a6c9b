//! What moves below the waist, at the neck, at the side seam and round the cap, read along the whole line and not at its ends:
//! on fresh blocks and on corrected ones, with lyon_geom as the reader, which shares no code with the core.

use kurbo::{PathSeg, Point};
use lyon_geom::{CubicBezierSegment, point};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, alteration, apply};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::geometry::Curve;
use yardwand_core::pattern::{LevelName, Pattern, Piece, Seam};

use crate::common::{Chance, bodies};

const STYLE: Style = Style::EIGHTHS;

/// Blocks of a kind on many bodies, every second one corrected already where it is a bodice or a dress.
fn blocks(kind: MethodKind) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    let drafted =
        bodies(120, 91).into_iter().filter_map(|body| Some(draft(&body, &method, STYLE).ok()?.pattern));
    let corrected = |pattern: Pattern| {
        let steps = [("full_bust", 8.0), ("rounded_back", 6.0), ("shoulder_slope", 4.0)];
        steps.into_iter().try_fold(pattern, |pattern, (code, mm)| done(&pattern, code, mm).ok())
    };
    let all = drafted.enumerate().filter_map(|(index, pattern)| {
        if index % 2 == 1 && pattern.front().is_some() { corrected(pattern) } else { Some(pattern) }
    });
    let all: Vec<Pattern> = all.collect();
    assert!(all.len() > 90, "{kind:?}: {}", all.len());
    all
}

fn done(pattern: &Pattern, code: &str, mm: f64) -> Result<Pattern, String> {
    let known = alteration(code).unwrap();
    apply(known, pattern, &Amounts::of(mm), None, STYLE)
        .map(|done| done.pattern)
        .map_err(|error| error.to_string())
}

/// A curve as lyon walks it: points less than half a millimetre apart.
fn walked(curve: &Curve) -> Vec<Point> {
    let mut points = vec![curve.start()];
    for seg in curve.segments() {
        let cubic = match seg {
            PathSeg::Line(line) => {
                let third = (line.p1 - line.p0) / 3.0;
                [line.p0, line.p0 + third, line.p1 - third, line.p1]
            }
            PathSeg::Cubic(cubic) => [cubic.p0, cubic.p1, cubic.p2, cubic.p3],
            PathSeg::Quad(_) => panic!("no seam is drawn with these"),
        };
        let [from, ctrl1, ctrl2, to] = cubic.map(|p| point(p.x, p.y));
        let cubic = CubicBezierSegment { from, ctrl1, ctrl2, to };
        let steps = (cubic.approximate_length(1e-4) / 0.4).ceil().max(1.0);
        points.extend((1..=steps as usize).map(|i| {
            let at = cubic.sample(i as f64 / steps);
            Point::new(at.x, at.y)
        }));
    }
    points
}

fn seam(piece: &Piece, seam: Seam) -> Vec<Vec<Point>> {
    piece.edges_of(seam).map(|edge| walked(&edge.curve)).collect()
}

fn long(lines: &[Vec<Point>]) -> f64 {
    lines.iter().flat_map(|line| line.windows(2)).map(|pair| pair[0].distance(pair[1])).sum()
}

/// How far across a line lies at a height; none where it does not come there.
fn x_at(lines: &[Vec<Point>], y: f64) -> Option<f64> {
    lines.iter().flat_map(|line| line.windows(2)).find_map(|pair| {
        let (a, b) = (pair[0], pair[1]);
        let between = (a.y - y) * (b.y - y) <= 0.0 && a.y != b.y;
        between.then(|| a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y))
    })
}

/// How high a line lies at a distance across.
fn y_at(lines: &[Vec<Point>], x: f64) -> Option<f64> {
    let turned: Vec<Vec<Point>> =
        lines.iter().map(|line| line.iter().map(|p| Point::new(p.y, p.x)).collect()).collect();
    x_at(&turned, x)
}

/// How far a point lies off lines.
fn off(lines: &[Vec<Point>], at: Point) -> f64 {
    let to = |pair: &[Point]| {
        let (a, along) = (pair[0], pair[1] - pair[0]);
        let share = ((at - a).dot(along) / along.hypot2().max(1e-12)).clamp(0.0, 1.0);
        (a + along * share).distance(at)
    };
    lines.iter().flat_map(|line| line.windows(2)).map(to).fold(f64::INFINITY, f64::min)
}

fn halves(pattern: &Pattern) -> [&Piece; 2] {
    match pattern.skirt_halves() {
        Some((front, back)) => [front.at_centre(), back.at_centre()],
        None => [pattern.front().unwrap(), pattern.back().unwrap()],
    }
}

fn level(piece: &Piece, name: LevelName) -> Option<f64> {
    piece.level(name).and_then(|level| level.points.last()).map(|point| point.y)
}

#[test]
fn a_hip_curve_bows_between_waist_and_hip_and_nowhere_else() {
    let mut chance = Chance::new(3);
    for kind in [MethodKind::Dress, MethodKind::Skirt] {
        for block in blocks(kind) {
            let by = chance.between(2.0, 8.0) * chance.one_of(&[-1.0, 1.0]);
            let after = done(&block, "hip_curve", by).unwrap();
            let mut longer = Vec::new();
            for (was, is) in halves(&block).into_iter().zip(halves(&after)) {
                let (before, now) = (seam(was, Seam::Side), seam(is, Seam::Side));
                let top = level(was, LevelName::Waist).unwrap_or(before[0][0].y);
                let hip = level(was, LevelName::Hip).unwrap_or(before.last().unwrap().last().unwrap().y);
                let mut most: f64 = 0.0;
                for n in 0..=80 {
                    let y = before[0][0].y
                        + (before.last().unwrap().last().unwrap().y - before[0][0].y) * f64::from(n) / 80.0;
                    let (Some(x), Some(then)) = (x_at(&before, y), x_at(&now, y)) else { continue };
                    let moved = (then - x) * by.signum();
                    if y < top - 1.0 || y > hip + 1.0 {
                        assert!(moved.abs() < 1e-6, "{kind:?} {by}: moves {moved} at {y}");
                    } else {
                        assert!((-0.05..by.abs() * 1.15).contains(&moved), "{kind:?} {by}: {moved} at {y}");
                        most = most.max(moved);
                    }
                }
                // The back's is drawn a little more or less, so that both are as long.
                assert!((most - by.abs()).abs() < by.abs() * 0.15 + 0.1, "{kind:?} {by}: {most}");
                longer.push(long(&now) - long(&before));
            }
            // Where no bow makes it just as long, it is within a twentieth.
            assert!((longer[0] - longer[1]).abs() < 0.05, "{kind:?} {by}: {longer:?}");
        }
    }
}

#[test]
fn what_the_front_gains_at_the_side_the_back_gives_at_every_height() {
    let mut chance = Chance::new(5);
    for kind in [MethodKind::Direct, MethodKind::Dress, MethodKind::Skirt] {
        for block in blocks(kind) {
            let by = chance.between(3.0, 12.0) * chance.one_of(&[-1.0, 1.0]);
            let Ok(after) = done(&block, "side_seam_place", by) else { continue };
            for ((was, is), own) in halves(&block).into_iter().zip(halves(&after)).zip([by, -by]) {
                let (before, now) = (seam(was, Seam::Side), seam(is, Seam::Side));
                let foot = before.last().unwrap().last().unwrap().y;
                // From the bust line down, clear of a dart's mouth and of the waist's end, which slides along the seam.
                let from = level(was, LevelName::Bust).unwrap_or(before[0][0].y + 5.0) + 1.0;
                let mouth = was.mouth(yardwand_core::pattern::DartPlace::Side);
                for n in 0..60 {
                    let y = from + (foot - 12.0 - from) * f64::from(n) / 60.0;
                    if mouth.is_some_and(|(upper, lower)| y > upper.y - 8.0 && y < lower.y + 8.0) {
                        continue;
                    }
                    let (Some(x), Some(then)) = (x_at(&before, y), x_at(&now, y)) else { continue };
                    assert!(
                        (then - x - own).abs() < 0.1 * own.abs() + 0.2,
                        "{kind:?} {own}: {} at {y} of {foot}",
                        then - x
                    );
                }
            }
            let walked = |pattern: &Pattern| halves(pattern).map(|piece| long(&seam(piece, Seam::Side)));
            let ([a, b], [c, d]) = (walked(&block), walked(&after));
            assert!(((a - b) - (c - d)).abs() < 0.05, "{kind:?} {by}: {a} {b}, {c} {d}");
        }
    }
}

#[test]
fn a_neckline_moves_forward_whole_and_the_armhole_stays() {
    let mut chance = Chance::new(7);
    for kind in [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional] {
        for block in blocks(kind) {
            let by = chance.between(3.0, 10.0) * chance.one_of(&[-1.0, 1.0]);
            let after = done(&block, "neck_forward", by).unwrap();
            for ((was, is), own) in halves(&block).into_iter().zip(halves(&after)).zip([by, -by]) {
                let (before, now) = (seam(was, Seam::Neckline), seam(is, Seam::Neckline));
                // From the centre to where the neck side is trued square.
                let reach = long(&before) - 32.0;
                let mut along = 0.0;
                for pair in before[0].windows(2) {
                    along += pair[0].distance(pair[1]);
                    if along > reach {
                        break;
                    }
                    let share = along / long(&before);
                    // The neck side goes in or out a little, so that the shoulder stays as long; the line follows it.
                    let off = off(&now, pair[1] + kurbo::Vec2::new(0.0, own));
                    assert!(off < 0.35 + own.abs() * 0.55 * share, "{kind:?} {own}: {off} at {share:.2}");
                }
                let [then, stays] = [was, is].map(|piece| long(&seam(piece, Seam::Shoulder)));
                assert!((then - stays).abs() < 0.05, "{kind:?} {own}: shoulder {then}, {stays}");
                // Beyond the corner at the tip the armhole is the very line it was.
                let armhole = [was, is].map(|piece| seam(piece, Seam::Armhole));
                for at in armhole[0].iter().flatten().filter(|at| at.distance(was.tip()) > 36.0) {
                    let off = off(&armhole[1], *at);
                    assert!(off < 0.05, "{kind:?} {own}: the armhole moves {off}");
                }
            }
        }
    }
}

#[test]
fn length_over_seat_and_belly_is_full_at_the_centre_and_nothing_at_the_side() {
    let mut chance = Chance::new(11);
    for block in blocks(MethodKind::Dress) {
        for (code, index, centre) in
            [("belly_length", 0, Seam::CentreFront), ("seat_length", 1, Seam::CentreBack)]
        {
            let by = chance.between(4.0, 18.0) * chance.one_of(&[-1.0, 1.0]);
            let after = done(&block, code, by).unwrap();
            let (was, is) = (halves(&block)[index], halves(&after)[index]);
            let [hem, now] = [was, is].map(|piece| seam(piece, Seam::Hem));
            let (side, middle) = (hem[0][0], *hem[0].last().unwrap());
            for n in 1..40 {
                let x = middle.x + (side.x - middle.x) * f64::from(n) / 40.0;
                let (Some(y), Some(then)) = (y_at(&hem, x), y_at(&now, x)) else { continue };
                let wanted = by * (side.x - x) / (side.x - middle.x);
                // The hem leaves the centre square and runs to the side: never a hand's breadth of step between.
                assert!(
                    (then - y - wanted).abs() < 0.12 * by.abs() + 0.3,
                    "{code} {by}: {} for {wanted} at {x}",
                    then - y
                );
            }
            assert_eq!(seam(was, Seam::Side), seam(is, Seam::Side), "{code}: the side stays");
            assert!((long(&seam(is, centre)) - long(&seam(was, centre)) - by).abs() < 0.02, "{code} {by}");
            let waist = level(was, LevelName::Waist).unwrap();
            for y in [waist - 60.0, waist - 10.0] {
                assert_eq!(
                    x_at(&seam(was, centre), y),
                    x_at(&seam(is, centre), y),
                    "{code}: above it nothing moves"
                );
            }
        }
    }
}

#[test]
fn a_sleeve_that_is_turned_is_the_same_tube_with_its_seam_elsewhere() {
    let mut chance = Chance::new(13);
    for block in blocks(MethodKind::Direct) {
        let by = chance.between(2.0, 14.0) * chance.one_of(&[-1.0, 1.0]);
        let after = done(&block, "sleeve_turn", by).unwrap();
        let [was, is] = [&block, &after].map(|pattern| pattern.sleeve().unwrap());
        let [cap, now] = [was, is].map(|piece| seam(piece, Seam::Cap));
        // Each half is as long as before, and every stretch of the cap but the strip lies where it lay.
        for half in 0..2 {
            assert!((long(&cap[half..=half]) - long(&now[half..=half])).abs() < 0.02, "{by}: half {half}");
        }
        let ends = [cap[0][0], *cap[1].last().unwrap()];
        for at in now.iter().flatten() {
            let off = off(&cap, *at);
            let in_the_strip = ends.iter().any(|end| end.distance(*at) < by.abs() + 1.0);
            assert!(off < 0.02 || in_the_strip, "{by}: {off} off at {at:?}");
        }
        let seams = [was, is].map(|piece| seam(piece, Seam::UnderSleeve));
        let differ = |seams: &[Vec<Point>]| long(&seams[0..1]) - long(&seams[1..2]);
        assert!(
            (differ(&seams[0]) - differ(&seams[1])).abs() < 0.4,
            "{by}: the seams differ by {}",
            differ(&seams[1])
        );
        let [hem, then] = [was, is].map(|piece| long(&seam(piece, Seam::Hem)));
        assert!((hem - then).abs() < 0.01, "{by}: hem {hem}, {then}");
    }
}

#[test]
fn a_skirt_s_rise_and_darts_leave_the_hip_and_all_below_it() {
    let mut chance = Chance::new(17);
    for block in blocks(MethodKind::Skirt) {
        for code in ["skirt_rise", "skirt_dart"] {
            let by = chance.between(4.0, 18.0) * chance.one_of(&[-1.0, 1.0]);
            let Ok(after) = done(&block, code, by) else { continue };
            let rise = if code == "skirt_rise" { by } else { 0.0 };
            for (was, is) in halves(&block).into_iter().zip(halves(&after)) {
                let [waist, now] = [was, is].map(|piece| seam(piece, Seam::Waist));
                assert!((long(&waist) - long(&now)).abs() < 0.05, "{code} {by}: the sewn waist");
                let [side, then] = [was, is].map(|piece| seam(piece, Seam::Side));
                assert!((long(&then) - long(&side) - rise).abs() < 0.05, "{code} {by}: the side");
                let hip = level(was, LevelName::Hip).unwrap();
                let foot = side.last().unwrap().last().unwrap().y;
                for n in 0..=30 {
                    let y = hip + 1.0 + (foot - hip - 2.0) * f64::from(n) / 30.0;
                    let (x, is) = (x_at(&side, y), x_at(&then, y));
                    assert!(
                        x.zip(is).is_none_or(|(x, is)| (x - is).abs() < 1e-6),
                        "{code} {by}: {x:?} {is:?} at {y}"
                    );
                }
                // The waist runs from centre to side without turning back up or down by more than it did.
                let highest =
                    |lines: &[Vec<Point>]| lines.iter().flatten().map(|p| p.y).fold(f64::INFINITY, f64::min);
                assert!((highest(&now) + rise - highest(&waist)).abs() < 3.0, "{code} {by}");
            }
        }
    }
}
