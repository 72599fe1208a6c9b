//! Cuffs: a straight band, folded over its length, on the finished hem of a sleeve (handbook: `wishes.md`, sections 5 and 8).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::sewn_on::{follows, on_each_side, sewn_on, wide_enough};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{GarmentPart, Grain, Pattern, PatternMeasure, Piece, Seam, Straight};

/// A cuff that opens laps over by so much, in millimetres (common practice, no source).
pub(super) const LAPS: f64 = 25.0;

const PARAMS: [Param; 2] = [
    Param::size(
        "Height",
        (0.0, 250.0),
        "How high it is as it is worn. The sleeve ends above it: its own step says how much of its length is the cuff's.",
    ),
    Param::place(
        "laps",
        "Laps over by",
        (0.0, 60.0),
        Some(LAPS),
        "What one end goes on over the other, usually 25 mm; nothing where the cuff is closed to a ring.",
    ),
];

const ABOUT: About = About {
    code: "cuffs",
    name: "Cuffs",
    why: "The sleeve is sewn into a straight cuff. It follows the hem as it is at the end, gathered or flat.",
    params: &PARAMS,
    seams: &[Seam::Hem],
    wants: "a cuff is sewn to the hem of a sleeve, and once: this pattern has no sleeve, or has cuffs",
    layer: Layer::Finish,
};

/// Cuffs.
pub(super) struct Cuffs;

impl Alteration for Cuffs {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.sleeve().is_some() && pattern.follows(Seam::Hem).next().is_none()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let sleeve = [PatternMeasure::CapWidth];
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS, &sleeve])
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        let hem = &sleeve.edges_of(Seam::Hem).next()?.curve;
        Some(Handle::new(sleeve.kind, hem.point_at(hem.length() / 2.0), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (wide, laps) = (args.amount(), args.of("laps"));
        wide_enough("cuff", wide, style)?;
        let cuff = |worn: &Pattern| -> Result<Piece, AlterError> {
            let sleeve = worn.sleeve().ok_or_else(|| AlterError::not_here(self.wants()))?;
            let long = sleeve.sewn_length(Seam::Hem);
            let part = GarmentPart::Cuff;
            let grain = Grain::AlongAndFolded;
            Ok(Straight { part, seam: Seam::Hem, long, laps, wide, grain, joints: Vec::new() }.piece())
        };
        let made = on_each_side(pattern, cuff)?;
        let unit = |mm: f64| style.with_unit(mm);
        let long: Vec<String> = made.iter().map(|piece| unit(piece.sewn_length(Seam::Hem))).collect();
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Rule a band as long as the hem of the sleeve as it is sewn, {}, and {} more to lap over; {} high, twice the {} \
                     it is worn.",
                    long.join(" on the left and "),
                    unit(laps),
                    unit(2.0 * wide),
                    unit(wide)
                ),
            ),
            (StageKind::True, "Rule the fold line along its middle.".to_owned()),
        ];
        let mut done = sewn_on(pattern, &made, &words);
        for pattern in [&mut done.pattern, &mut done.taped] {
            { pattern.pieces.iter_mut() }
                .filter(|piece| piece.kind.is_sleeve())
                .for_each(|piece| piece.cuffed = true);
        }
        Ok(done.and(follows("cuff", "hem of the sleeve")))
    }
}
