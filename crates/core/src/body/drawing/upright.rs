//! The figure from the front and from behind.

use kurbo::Point;

use super::line::{arc, ellipse, outline, points, spline, straight};
use super::stance::Stance;

type Drawn = (Vec<String>, Vec<String>, (f64, f64));

pub(super) fn front(s: &Stance) -> Drawn {
    let mut lines = common(s);
    lines.push(arc((-s.neck, s.neck_side_y), (0.0, s.pit_y + 38.0), (s.neck, s.neck_side_y)));
    for side in [-1.0, 1.0] {
        let x = s.bust_half * side;
        let out = s.bust.x.min(s.bust_half + 58.0) * side;
        let inner = (s.bust_half - 52.0).max(14.0) * side;
        lines.push(arc((inner, s.under_bust.y - 12.0), (x, s.under_bust.y + 22.0), (out, s.bust.y + 22.0)));
        let knee = Point::new(s.knee.at.x * side, s.knee.at.y);
        lines.push(arc(
            (knee.x - 20.0, knee.y + 16.0),
            (knee.x, knee.y + 26.0),
            (knee.x + 20.0, knee.y + 16.0),
        ));
    }
    (body(s), lines, width(s))
}

pub(super) fn back(s: &Stance) -> Drawn {
    let mut lines = common(s);
    lines.push(arc((-s.neck, s.neck_side_y), (0.0, s.nape_y - 8.0), (s.neck, s.neck_side_y)));
    lines.push(straight(&[(0.0, s.nape_y + 26.0), (0.0, s.hip.y - 40.0)]));
    for side in [-1.0, 1.0] {
        let (a, b) = (66.0 * side, 112.0 * side);
        lines.push(arc((a, s.armpit.y - 62.0), (a, s.armpit.y + 16.0), (b, s.armpit.y + 4.0)));
        let (inner, outer) = (10.0 * side, (s.hip.x - 22.0) * side);
        lines.push(arc(
            (inner, s.crotch_y - 6.0),
            (inner.midpoint(outer), s.crotch_y + 26.0),
            (outer, s.crotch_y - 22.0),
        ));
    }
    (body(s), lines, width(s))
}

fn common(s: &Stance) -> Vec<String> {
    vec![arc((-s.waist.x, s.waist.y), (0.0, s.waist.y + 14.0), (s.waist.x, s.waist.y))]
}

fn width(s: &Stance) -> (f64, f64) {
    let half = s.hand.outer().x + 12.0;
    (-half, half)
}

fn body(s: &Stance) -> Vec<String> {
    vec![
        arm(s, 1.0),
        arm(s, -1.0),
        trunk(s),
        ellipse((0.0, s.neck_side_y * 0.434), (s.neck_side_y * 0.248, s.neck_side_y * 0.395)),
    ]
}

/// Neck, shoulders, side, leg and foot down to the crotch, then the same mirrored.
fn trunk(s: &Stance) -> String {
    let neck_side = Point::new(s.neck, s.neck_side_y);
    let top = s.neck_side_y * 0.72;
    let neck = vec![
        Point::new(s.neck * 0.78, top),
        Point::new(s.neck * 0.8, top.midpoint(s.neck_side_y) + 6.0),
        Point::new(s.neck * 0.86, s.neck_side_y - 12.0),
        neck_side,
    ];
    let shoulder = vec![neck_side, neck_side.midpoint(s.shoulder) + (0.0, -3.0), s.shoulder];
    let side = vec![
        s.shoulder,
        s.shoulder.midpoint(s.crease) + (2.0, 0.0),
        s.crease + (4.0, 10.0),
        s.armpit,
        s.bust,
        s.under_bust,
        s.waist,
        s.top_hip + (4.0, 0.0),
        s.hip,
        s.thigh.outer(),
        s.knee.outer(),
        s.calf.outer() + (4.0, 0.0),
        s.ankle.outer(),
    ];
    let ankle = s.ankle;
    let foot = points(&[
        (ankle.outer().x, ankle.at.y),
        (ankle.outer().x + 4.0, s.floor - 34.0),
        (ankle.at.x + 58.0, s.floor - 10.0),
        (ankle.at.x + 40.0, s.floor),
        (ankle.at.x - 24.0, s.floor),
        (ankle.at.x - 32.0, s.floor - 18.0),
        (ankle.inner().x, ankle.at.y),
    ]);
    let inside = vec![
        ankle.inner(),
        s.calf.inner() + (-3.0, 0.0),
        s.knee.inner(),
        Point::new((s.thigh.inner().x).max(3.0), s.thigh.at.y),
        Point::new(0.0, s.crotch_y),
    ];
    let right = [neck, shoulder, side, foot, inside];
    let mirrored = |run: &Vec<Point>| run.iter().rev().map(|p| Point::new(-p.x, p.y)).collect::<Vec<_>>();
    let runs: Vec<_> = right.iter().cloned().chain(right.iter().rev().map(mirrored)).collect();
    outline(&runs)
}

fn arm(s: &Stance, side: f64) -> String {
    let sp = s.shoulder;
    let tip = s.hand.at + (0.0, 58.0);
    let along = [
        sp + (-30.0, 4.0),
        sp + (4.0, 5.0),
        sp + (s.upper_arm.half * 0.5, 26.0),
        s.upper_arm.outer() + (0.0, -40.0),
        s.upper_arm.outer(),
        s.elbow.outer(),
        s.wrist.outer(),
        s.hand.outer() + (0.0, -6.0),
        s.hand.outer() + (-4.0, 26.0),
        tip,
        s.hand.inner() + (2.0, 24.0),
        s.hand.inner() + (-1.0, -14.0),
        s.wrist.inner(),
        s.elbow.inner(),
        s.upper_arm.inner(),
        s.armpit + (-4.0, 4.0),
        sp + (-30.0, 40.0),
    ];
    spline(&along.map(|p| Point::new(p.x * side, p.y)), true).to_svg()
}
