//! The figure from her side, facing right.

use kurbo::Point;

use super::line::{arc, ellipse, outline, points, spline};
use super::stance::Stance;

pub(super) fn side(s: &Stance) -> (Vec<String>, Vec<String>, (f64, f64)) {
    let [_, bust, _, waist, _, hip] = s.depths;
    let mut lines = vec![arc(
        (waist.back, waist.y),
        (waist.back.midpoint(waist.front), waist.y + 12.0),
        (waist.front, waist.y),
    )];
    // The breast's own line under the arm.
    lines.push(arc(
        (bust.front - 6.0, bust.y + 34.0),
        (bust.front - 46.0, bust.y + 58.0),
        (bust.front - 78.0, bust.y + 18.0),
    ));
    let head = s.neck_side_y;
    let body = vec![trunk(s), ellipse((head * 0.1, head * 0.434), (head * 0.315, head * 0.395))];
    // The arm is only a line: what is measured at the side lies behind it.
    lines.push(arm(s));
    (body, lines, (hip.back - 84.0, bust.front.max(150.0) + 20.0))
}

fn trunk(s: &Stance) -> String {
    let [armpit, bust, under, waist, top_hip, hip] = s.depths;
    let floor = s.floor;
    let (neck, head) = (s.neck, s.neck_side_y);
    let thigh = (s.thigh.half * 1.02, s.thigh.at.y);
    let back = vec![
        Point::new(-neck * 0.5, head * 0.6),
        Point::new(-neck * 0.74, head * 0.84),
        Point::new(-neck * 0.92, s.nape_y),
        Point::new(armpit.back * 0.84, s.nape_y + 58.0),
        Point::new(armpit.back, s.crease.y + 30.0),
        Point::new(armpit.back * 0.97, armpit.y + 20.0),
        Point::new(under.back * 0.98, under.y),
        Point::new(waist.back, waist.y),
        Point::new(top_hip.back, top_hip.y),
        Point::new(hip.back, hip.y),
        Point::new(-thigh.0 * 1.3, s.crotch_y + 12.0),
        Point::new(-thigh.0 * 1.08, thigh.1 + 50.0),
        Point::new(-s.knee.half * 0.92, s.knee.at.y),
        Point::new(-s.calf.half * 1.38, s.calf.at.y),
        Point::new(-s.ankle.half * 1.62, s.ankle.at.y),
    ];
    let foot = points(&[
        (-s.ankle.half * 1.62, s.ankle.at.y),
        (-s.ankle.half * 1.9, floor - 26.0),
        (-s.ankle.half * 1.6, floor),
        (60.0, floor),
        (138.0, floor),
        (146.0, floor - 14.0),
        (70.0, floor - 44.0),
        (s.ankle.half * 0.42, s.ankle.at.y),
    ]);
    let front = vec![
        Point::new(s.ankle.half * 0.42, s.ankle.at.y),
        Point::new(s.calf.half * 0.62, s.calf.at.y),
        Point::new(s.knee.half * 1.08, s.knee.at.y),
        Point::new(thigh.0 * 0.96, thigh.1 + 60.0),
        Point::new(hip.front * 0.94, s.crotch_y - 10.0),
        Point::new(hip.front, hip.y),
        Point::new(top_hip.front, top_hip.y),
        Point::new(waist.front, waist.y),
        Point::new(under.front, under.y + 8.0),
    ];
    let breast = vec![
        Point::new(under.front, under.y + 8.0),
        Point::new(bust.front * 0.93, bust.y + 40.0),
        Point::new(bust.front, bust.y),
        Point::new(armpit.front * 1.02, armpit.y - 10.0),
        Point::new(neck * 1.06, s.pit_y + 34.0),
        Point::new(neck * 0.86, s.pit_y),
    ];
    let throat = points(&[(neck * 0.86, s.pit_y), (neck * 0.74, head * 0.9), (neck * 0.7, head * 0.66)]);
    let up = vec![Point::new(neck * 0.7, head * 0.66), Point::new(-neck * 0.5, head * 0.6)];
    outline(&[back, foot, front, breast, throat, up])
}

fn arm(s: &Stance) -> String {
    let [shoulder, elbow, wrist] = s.arm_from_side();
    let (upper, lower, thin) = (s.upper_arm.half * 0.98, s.elbow.half, s.wrist.half * 0.86);
    let middle = shoulder.midpoint(elbow) + (0.0, -20.0);
    let along = [
        shoulder + (0.0, -8.0),
        shoulder + (upper * 0.92, 30.0),
        middle + (upper, 0.0),
        elbow + (lower * 0.94, 6.0),
        wrist + (thin, -6.0),
        wrist + (thin + 22.0, 60.0),
        wrist + (26.0, 118.0),
        wrist + (2.0, 104.0),
        wrist + (-thin + 2.0, 30.0),
        wrist + (-thin, -8.0),
        elbow + (-lower * 0.86, 14.0),
        middle + (-upper, 0.0),
        shoulder + (-upper * 0.96, 34.0),
    ];
    spline(&along, true).to_svg()
}
