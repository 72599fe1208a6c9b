//! Where everything is on a figure: levels, half widths, depths and landmarks.

use std::f64::consts::PI;

use kurbo::Point;

use crate::body::Body;

/// The neck side lies this share of the height below the crown (common practice, no source).
const NECK_SIDE: f64 = 0.156;
/// A section of the trunk is this much wider than a circle of the same girth.
const WIDER: f64 = 1.1;
/// And so much shallower: an ellipse's girth is near 2π√((a² + b²)/2).
const SHALLOWER: f64 = 0.889;

/// A level of the figure from the side: how far it reaches behind and in front.
#[derive(Clone, Copy, Debug)]
pub(super) struct Depth {
    pub(super) y: f64,
    pub(super) back: f64,
    pub(super) front: f64,
}

impl Depth {
    fn middle(self) -> Point {
        Point::new(self.back.midpoint(self.front), self.y)
    }
}

/// A limb's place: its middle, and half its width.
#[derive(Clone, Copy, Debug)]
pub(super) struct Limb {
    pub(super) at: Point,
    pub(super) half: f64,
}

impl Limb {
    pub(super) fn inner(self) -> Point {
        Point::new(self.at.x - self.half, self.at.y)
    }

    pub(super) fn outer(self) -> Point {
        Point::new(self.at.x + self.half, self.at.y)
    }
}

pub(super) struct Stance {
    pub(super) neck: f64,
    pub(super) neck_side_y: f64,
    pub(super) shoulder: Point,
    pub(super) nape_y: f64,
    pub(super) pit_y: f64,
    pub(super) armpit: Point,
    pub(super) crease: Point,
    pub(super) bust: Point,
    pub(super) bust_half: f64,
    pub(super) under_bust: Point,
    pub(super) waist: Point,
    pub(super) top_hip: Point,
    pub(super) hip: Point,
    pub(super) crotch_y: f64,
    pub(super) floor: f64,
    pub(super) upper_arm: Limb,
    pub(super) elbow: Limb,
    pub(super) wrist: Limb,
    pub(super) hand: Limb,
    pub(super) thigh: Limb,
    pub(super) knee: Limb,
    pub(super) calf: Limb,
    pub(super) ankle: Limb,
    /// From the neck down: armpit, bust, under-bust, waist, top hip, hip.
    pub(super) depths: [Depth; 6],
    hem_y: f64,
}

impl Stance {
    /// Reads what is known; the rest is estimated from it, or stands at the middle figure.
    pub(super) fn of(body: &Body) -> Self {
        let (own, middle) = (body.clone().plausible().estimated(), Body::middle());
        let get = |code: &str| own.get(code).or(middle.get(code)).unwrap_or(0.0);
        let round = |code: &str| get(code) / (2.0 * PI);
        let half = |code: &str| round(code) * WIDER;

        let neck_side_y = get("height") * NECK_SIDE;
        let nape_y = neck_side_y - 12.0;
        let bust_y = neck_side_y + 0.94 * get("snp_to_bust_point");
        let waist_y = (nape_y + 0.98 * get("nape_to_waist_back")).max(bust_y + 100.0);
        let across = get("across_front") / 2.0;
        let armpit_y = nape_y + get("armhole_depth");
        let shoulder =
            Point::new((get("shoulder_width") / 2.0).max(across + 8.0), neck_side_y + get("shoulder_slope"));
        let hip = Point::new(half("hip_girth"), waist_y + get("waist_to_hip"));
        let waist = Point::new(half("waist_girth"), waist_y);
        let under_bust_y = (bust_y + 72.0).min(bust_y.midpoint(waist_y) + 30.0);
        let crotch_y = hip.y + 72.0;
        let floor = waist_y + get("waist_to_floor");
        let knee_y = waist_y + get("waist_to_knee");
        let ankle_y = (waist_y + get("waist_to_ankle")).min(floor - 40.0);

        // The arms hang clear of the hip.
        let clear = (hip.x.max(waist.x + 30.0) - 172.0).max(0.0) * 0.8;
        let arm = get("arm_length");
        let limb = |x: f64, y: f64, half: f64| Limb { at: Point::new(x, y), half };
        let thigh_half = round("thigh_girth");
        let thigh_x = (hip.x - thigh_half - 3.0).max(thigh_half + 2.0);
        let leg_x = |share: f64| thigh_x + (64.0 - thigh_x) * share;
        let level = |y: f64, code: &str, behind: f64| {
            let depth = 2.0 * round(code) * SHALLOWER;
            Depth { y, back: -depth * behind, front: depth * (1.0 - behind) }
        };
        Self {
            neck: round("neck_base_girth") * 0.98,
            neck_side_y,
            nape_y,
            pit_y: neck_side_y + 42.0,
            armpit: Point::new(across + 2.0, armpit_y),
            crease: Point::new(across, shoulder.y.midpoint(armpit_y)),
            bust: Point::new(half("bust_girth"), bust_y),
            bust_half: get("bust_span") / 2.0,
            under_bust: Point::new(half("under_bust_girth"), under_bust_y),
            top_hip: Point::new(half("top_hip_girth"), waist_y.midpoint(hip.y)),
            upper_arm: limb(
                shoulder.x + 10.0 + clear * 0.3,
                armpit_y + 66.0,
                round("upper_arm_girth") * 0.92,
            ),
            elbow: limb(
                shoulder.x + 20.0 + clear * 0.6,
                shoulder.y + arm * 0.56,
                round("elbow_girth") * 0.88,
            ),
            wrist: limb(shoulder.x + 38.0 + clear, shoulder.y + arm * 0.95, round("wrist_girth")),
            hand: limb(shoulder.x + 42.0 + clear, shoulder.y + arm * 0.95 + 62.0, round("hand_girth") * 0.86),
            thigh: limb(thigh_x, crotch_y + 36.0, thigh_half),
            knee: limb(leg_x(0.55), knee_y, round("knee_girth")),
            calf: limb(leg_x(0.72), knee_y + 0.3 * (ankle_y - knee_y), round("calf_girth")),
            ankle: limb(leg_x(1.0), ankle_y, round("ankle_girth")),
            depths: [
                level(armpit_y, "upper_bust_girth", 0.53),
                level(bust_y, "bust_girth", 0.47),
                level(under_bust_y, "under_bust_girth", 0.5),
                level(waist_y, "waist_girth", 0.47),
                level(waist_y.midpoint(hip.y), "top_hip_girth", 0.52),
                level(hip.y, "hip_girth", 0.57),
            ],
            hem_y: neck_side_y + get("full_length").max(700.0).min(floor - neck_side_y),
            shoulder,
            waist,
            hip,
            crotch_y,
            floor,
        }
    }

    /// A landmark from the front or behind, on the drawn side; `_other` names its mirror image.
    pub(super) fn landmark(&self, name: &str) -> Option<Point> {
        if let Some(own) = name.strip_suffix("_other") {
            return self.landmark(own).map(|p| Point::new(-p.x, p.y));
        }
        let neck_side = Point::new(self.neck, self.neck_side_y);
        let at_waist = |x: f64| Point::new(x, self.waist.y);
        let centre = |y: f64| Point::new(0.0, y);
        Some(match name {
            "nape" => centre(self.nape_y),
            "nape_seen" => Point::new(self.neck * 0.35, self.nape_y - 10.0),
            "pit" => centre(self.pit_y),
            "neck_side" => neck_side,
            "neck_side_centre" => centre(self.neck_side_y),
            "shoulder" => self.shoulder,
            "collar_bone" => Point::new(self.neck + 6.0, self.pit_y + 14.0),
            "shoulder_middle" => neck_side.midpoint(self.shoulder),
            "hip_at_shoulder_middle" => Point::new(neck_side.midpoint(self.shoulder).x, self.hip.y),
            "slope_top" => Point::new(self.shoulder.x, self.neck_side_y),
            "crease" => self.crease,
            "armpit" => Point::new(self.armpit.x - 6.0, self.armpit.y + 6.0),
            "armpit_centre" => centre(self.armpit.y),
            "underarm" => Point::new(self.armpit.x - 4.0, self.armpit.y + 25.0),
            "bust_point" => Point::new(self.bust_half, self.bust.y),
            "bust_centre" => centre(self.bust.y),
            "cup_top" => Point::new(self.bust_half, self.bust.y - 95.0),
            "under_bust_point" => Point::new(self.bust_half * 0.92, self.under_bust.y),
            "under_bust_centre" => centre(self.under_bust.y),
            "shoulder_blade" => Point::new(82.0, self.armpit.y - 30.0),
            "across_centre" => centre(self.crease.y),
            "side_middle" => {
                let y = self.bust.y.midpoint(self.waist.y);
                Point::new(self.half_width(y), y)
            }
            "chest_centre" => centre(self.pit_y.midpoint(self.bust.y)),
            "waist_centre" => at_waist(0.0),
            "waist_out" => self.waist,
            "waist_at_neck_side" => at_waist(self.neck),
            "waist_at_bust_point" => at_waist(self.bust_half),
            "hip_at_bust_point" => Point::new(self.bust_half, self.hip.y),
            "hem_at_bust_point" => Point::new(self.bust_half, self.hem_y),
            "top_hip_out" => self.top_hip,
            "under_seat" => centre(self.hip.y.midpoint(self.crotch_y)),
            "top_hip_centre" => centre(self.top_hip.y),
            "hip_centre" => centre(self.hip.y),
            "hip_out" => self.hip,
            "hem_centre" => centre(self.hem_y),
            "round_shoulder" => Point::new(self.upper_arm.outer().x - 12.0, self.shoulder.y + 78.0),
            "front_cap" | "back_cap" => self.crease.midpoint(self.landmark("round_shoulder")?) + (0.0, 14.0),
            "upper_arm_middle" => self.upper_arm.at,
            "upper_arm_in" => self.upper_arm.inner(),
            "upper_arm_out" => self.upper_arm.outer(),
            "elbow_in" => self.elbow.inner(),
            "elbow_out" => self.elbow.outer(),
            "wrist_in" => self.wrist.inner(),
            "wrist_out" => self.wrist.outer(),
            "hand_in" => self.hand.inner(),
            "hand_out" => self.hand.outer(),
            "crotch" => centre(self.crotch_y),
            "floor_centre" => centre(self.floor),
            // A tape slanted up into the crotch lies higher within than without.
            "thigh_high_in" => Point::new(4.0, self.crotch_y + 4.0),
            "thigh_high_out" => self.thigh.outer() - (0.0, 34.0),
            "thigh_in" => self.thigh.inner(),
            "thigh_out" => self.thigh.outer(),
            "knee_in" => self.knee.inner(),
            "knee_out" => self.knee.outer(),
            "calf_in" => self.calf.inner(),
            "calf_out" => self.calf.outer(),
            "ankle_in" => self.ankle.inner(),
            "ankle_out" => self.ankle.outer(),
            _ => return None,
        })
    }

    /// A landmark from the side.
    pub(super) fn profile_landmark(&self, name: &str) -> Option<Point> {
        let [armpit, bust, _, waist, top_hip, hip] = self.depths;
        let below_hip = |y: f64| Point::new(hip.middle().x.midpoint(0.0), y);
        let behind = hip.back - 70.0;
        Some(match name {
            "underarm" => Point::new(armpit.middle().x + 8.0, armpit.y + 25.0),
            "bust_point" => Point::new(bust.front, bust.y),
            "waist_side" => waist.middle(),
            "hip_side" => hip.middle(),
            "crotch_side" => below_hip(self.crotch_y),
            "knee_side" => below_hip(self.knee.at.y),
            "ankle_side" => below_hip(self.ankle.at.y),
            "floor_side" => below_hip(self.floor),
            "shoulder_side" => self.arm_from_side()[0],
            "elbow_side" => self.arm_from_side()[1],
            "wrist_side" => self.arm_from_side()[2],
            "nape_side" => Point::new(-self.neck * 0.92, self.nape_y),
            "blade" => Point::new(armpit.back, self.crease.y + 30.0),
            "cap" => self.arm_from_side()[0] + (0.0, 62.0),
            "front_cap" => self.arm_from_side()[0] + (34.0, 70.0),
            "back_cap" => self.arm_from_side()[0] + (-34.0, 70.0),
            "front_sleeve" => self.arm_from_side()[0].midpoint(self.arm_from_side()[1]) + (32.0, 10.0),
            "back_sleeve" => self.arm_from_side()[0].midpoint(self.arm_from_side()[1]) + (-32.0, 10.0),
            "top_hip_side" => top_hip.middle(),
            "under_seat" => Point::new(hip.back + 14.0, self.hip.y.midpoint(self.crotch_y)),
            "side_middle" => Point::new(bust.middle().x, bust.y.midpoint(waist.y)),
            "front_waist" => Point::new(waist.front, waist.y),
            "back_waist" => Point::new(waist.back, waist.y),
            "belly" => Point::new(top_hip.front, top_hip.y),
            "seat" => Point::new(hip.back, hip.y),
            "front_hem" => Point::new(hip.front, self.hem_y),
            "side_hem" => Point::new(hip.middle().x, self.hem_y),
            "back_hem" => Point::new(hip.back, self.hem_y),
            "crown_behind" => Point::new(behind, 0.0),
            "floor_behind" => Point::new(behind, self.floor),
            _ => return None,
        })
    }

    /// Shoulder point, elbow and wrist from the side: the elbow slightly bent.
    pub(super) fn arm_from_side(&self) -> [Point; 3] {
        [
            Point::new(-14.0, self.shoulder.y),
            Point::new(-34.0, self.elbow.at.y),
            Point::new(28.0, self.wrist.at.y - 12.0),
        ]
    }

    /// Half the body's width at a height.
    pub(super) fn half_width(&self, y: f64) -> f64 {
        let stations = [self.armpit, self.bust, self.under_bust, self.waist, self.top_hip, self.hip];
        match stations.iter().position(|p| p.y >= y) {
            None => self.hip.x,
            Some(0) => self.armpit.x,
            Some(i) => {
                let (a, b) = (stations[i - 1], stations[i]);
                a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y).max(1e-9)
            }
        }
    }
}
