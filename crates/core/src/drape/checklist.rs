//! What is marked before the toile comes off, in one walk round the piece, and which of it is wanted (drape.md, section 1).

use serde::Serialize;

use super::facts::Material;
use super::marks::{Cross, DartMarks, Named, Run};
use super::report::Draped;
use crate::pattern::DartPlace;

/// How much a mark is wanted.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum MarkNeed {
    /// Without it nothing is drawn.
    Needed,
    /// Without it a line is drawn by rule, and that is said.
    Wanted,
    /// It makes a line more certain.
    Helps,
}

/// A mark of the list.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MarkWanted {
    /// Which.
    pub mark: Named,
    /// What it is called at the table.
    pub name: &'static str,
    /// Where it is.
    pub place: &'static str,
    /// How much it is wanted.
    pub need: MarkNeed,
    /// Of a run: so many dots at least; none for a cross.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub least_dots: Option<usize>,
}

/// Dots of an edge that is cut straight.
const TWO: usize = 2;
/// Dots of a thread, a shoulder, a waist or a leg.
const FEW: usize = 3;
/// Dots of a curve or a long seam.
const SEVERAL: usize = 4;

/// Round the piece from the top of its centre, then what lies inside.
const WALK: [Named; 37] = [
    Named::Cross(Cross::CentreTop),
    Named::Run(Run::NecklineDots),
    Named::Cross(Cross::NeckSide),
    Named::Run(Run::ShoulderDots),
    Named::Cross(Cross::ShoulderDartIn),
    Named::Cross(Cross::ShoulderDartOut),
    Named::Run(Run::ShoulderOuterDots),
    Named::Cross(Cross::Tip),
    Named::Run(Run::ArmholeDots),
    Named::Cross(Cross::Across),
    Named::Run(Run::ArmholeLowerDots),
    Named::Cross(Cross::Underarm),
    Named::Run(Run::SideDots),
    Named::Cross(Cross::SideDartUpper),
    Named::Cross(Cross::SideDartLower),
    Named::Run(Run::SideLowerDots),
    Named::Cross(Cross::SideWaist),
    Named::Run(Run::WaistOuterDots),
    Named::Cross(Cross::WaistDartOut),
    Named::Cross(Cross::WaistDartIn),
    Named::Run(Run::WaistDots),
    Named::Cross(Cross::CentreWaist),
    Named::Run(Run::CentreDots),
    Named::Run(Run::SlashLowerDots),
    Named::Run(Run::SlashUpperDots),
    Named::Run(Run::DrawnCentreDots),
    Named::Run(Run::LevelDots),
    Named::Cross(Cross::BustPoint),
    Named::Run(Run::WaistDartInLeg),
    Named::Run(Run::WaistDartOutLeg),
    Named::Cross(Cross::WaistDartPoint),
    Named::Run(Run::ShoulderDartInLeg),
    Named::Run(Run::ShoulderDartOutLeg),
    Named::Cross(Cross::ShoulderDartPoint),
    Named::Run(Run::SideDartUpperLeg),
    Named::Run(Run::SideDartLowerLeg),
    Named::Cross(Cross::SideDartPoint),
];

/// The marks of a piece that is shaped with these darts, in the order of the walk.
pub(super) fn checklist(piece: Draped, material: Material, darts: &[DartPlace]) -> Vec<MarkWanted> {
    let wanted = |named: &Named| {
        let need = need(piece, material, darts, *named)?;
        let least_dots = match named {
            Named::Cross(_) => None,
            Named::Run(run) => Some(least_dots(*run)),
        };
        Some(MarkWanted {
            mark: *named,
            name: named.name(),
            place: place(piece, material, *named),
            need,
            least_dots,
        })
    };
    WALK.iter().filter_map(wanted).collect()
}

/// Every mark of a draped piece, whichever darts it is shaped with: what is looked through before it comes off.
pub fn marks_of_a_toile(piece: Draped) -> Vec<MarkWanted> {
    checklist(piece, Material::Toile, darts_there_may_be(piece))
}

/// The darts a piece may be shaped with.
pub const fn darts_there_may_be(piece: Draped) -> &'static [DartPlace] {
    match piece {
        Draped::Front => &[DartPlace::Shoulder, DartPlace::Side, DartPlace::Waist],
        Draped::Back => &[DartPlace::Shoulder, DartPlace::Waist],
    }
}

const fn least_dots(run: Run) -> usize {
    match run {
        Run::NecklineDots
        | Run::ArmholeDots
        | Run::ArmholeLowerDots
        | Run::SideDots
        | Run::SideLowerDots
        | Run::DrawnCentreDots => SEVERAL,
        // Its ends tell where it lies; more of them how straight it opens.
        Run::SlashUpperDots | Run::SlashLowerDots => TWO,
        _ => FEW,
    }
}

/// How much a mark is wanted; none where the piece has no such mark.
fn need(piece: Draped, material: Material, darts: &[DartPlace], named: Named) -> Option<MarkNeed> {
    if material == Material::Slashed {
        return need_of_slashed(piece, named);
    }
    let is_there = |dart: DartPlace| darts.contains(&dart) && darts_there_may_be(piece).contains(&dart);
    let of_dart = |has: &dyn Fn(&DartMarks) -> bool| DartMarks::ALL.iter().find(|dart| has(dart));
    match named {
        Named::Cross(Cross::BustPoint) => match (piece, material) {
            (Draped::Back, _) => None,
            (Draped::Front, Material::Paper) => Some(MarkNeed::Helps),
            (Draped::Front, Material::Toile | Material::Slashed) => Some(MarkNeed::Needed),
        },
        Named::Cross(mark) if Cross::OF_EVERY_PIECE.contains(&mark) => Some(MarkNeed::Needed),
        Named::Cross(mark) => {
            let dart = of_dart(&|dart| dart.point == mark || dart.mouth.contains(&mark))?;
            let is_point = dart.point == mark;
            // A front's darts all turn about the bust point; a drawn point is on paper.
            let is_wanted = !is_point || piece == Draped::Back || material == Material::Paper;
            let need = if is_point { MarkNeed::Helps } else { MarkNeed::Needed };
            (is_there(dart.place) && is_wanted).then_some(need)
        }
        Named::Run(run) => match run {
            Run::NecklineDots | Run::ArmholeDots => Some(MarkNeed::Wanted),
            Run::ArmholeLowerDots => (material == Material::Paper).then_some(MarkNeed::Wanted),
            // Of paper nothing is taken for pulled askew.
            Run::LevelDots => (material == Material::Toile).then_some(MarkNeed::Helps),
            Run::ShoulderOuterDots => is_there(DartPlace::Shoulder).then_some(MarkNeed::Helps),
            Run::SideLowerDots => is_there(DartPlace::Side).then_some(MarkNeed::Helps),
            Run::WaistOuterDots => is_there(DartPlace::Waist).then_some(MarkNeed::Helps),
            Run::CentreDots | Run::ShoulderDots | Run::SideDots | Run::WaistDots => Some(MarkNeed::Helps),
            Run::SlashUpperDots | Run::SlashLowerDots | Run::DrawnCentreDots => None,
            leg => {
                let dart = of_dart(&|dart| dart.legs.contains(&leg))?;
                is_there(dart.place).then_some(MarkNeed::Helps)
            }
        },
    }
}

/// Of a back that was slashed: the straight centre below, both edges of the slash, the drawn centre and the nape.
fn need_of_slashed(piece: Draped, named: Named) -> Option<MarkNeed> {
    let is_back = piece == Draped::Back;
    let need = match named {
        Named::Cross(Cross::CentreTop | Cross::CentreWaist)
        | Named::Run(Run::SlashUpperDots | Run::SlashLowerDots | Run::DrawnCentreDots) => MarkNeed::Needed,
        Named::Run(Run::CentreDots) => MarkNeed::Helps,
        _ => return None,
    };
    is_back.then_some(need)
}

/// Where a mark is, in words.
fn place(piece: Draped, material: Material, named: Named) -> &'static str {
    let is_front = piece == Draped::Front;
    match named {
        Named::Run(Run::CentreDots) if material == Material::Slashed => {
            "on the straight centre, below the slash"
        }
        Named::Cross(mark) => match mark {
            Cross::CentreTop if is_front => "the pit of the neck, on the centre",
            Cross::CentreTop => "the bone at the nape, on the centre",
            Cross::NeckSide => "where the neck meets the shoulder",
            Cross::Tip => "where the shoulder meets the armhole",
            Cross::Across => "on the armhole's ridge, level with the arm plate's screw",
            Cross::Underarm => "under the arm plate, at the side seam",
            Cross::SideWaist => "where the side seam meets the waist",
            Cross::CentreWaist => "where the centre meets the waist",
            Cross::BustPoint => "the apex of the bust: every dart of the front turns about it",
            Cross::WaistDartIn => "its mouth on the waist, nearer to the centre",
            Cross::WaistDartOut => "its mouth on the waist, nearer to the side",
            Cross::ShoulderDartIn => "its mouth on the shoulder, nearer to the neck",
            Cross::ShoulderDartOut => "its mouth on the shoulder, nearer to the tip",
            Cross::SideDartUpper => "the upper end of its mouth on the side seam",
            Cross::SideDartLower => "the lower end of its mouth on the side seam",
            Cross::WaistDartPoint | Cross::ShoulderDartPoint | Cross::SideDartPoint => {
                "where its stitching runs out"
            }
        },
        Named::Run(run) => match run {
            Run::CentreDots => "on the ruled lengthwise thread, from the top",
            Run::LevelDots => "on the ruled crosswise thread, from the centre outwards",
            Run::NecklineDots => "from the centre to the neck side",
            Run::ShoulderDots => "from the neck side to the tip, or to the dart",
            Run::ShoulderOuterDots => "from the dart to the tip",
            Run::ArmholeDots => "from the tip down to across",
            Run::ArmholeLowerDots => "from across round to the underarm",
            Run::SideDots => "from the underarm down to the waist, or to the dart",
            Run::SideLowerDots => "from the dart down to the waist",
            Run::WaistDots => "between the centre and the dart, or the side",
            Run::WaistOuterDots => "between the dart and the side",
            Run::WaistDartInLeg
            | Run::WaistDartOutLeg
            | Run::ShoulderDartInLeg
            | Run::ShoulderDartOutLeg
            | Run::SideDartUpperLeg
            | Run::SideDartLowerLeg => "on the leg, from the mouth to the point",
            Run::SlashUpperDots => "on the edge above it, at the same places",
            Run::SlashLowerDots => "on the edge below the slash, from the centre outwards",
            Run::DrawnCentreDots => "on the line that was drawn on her, from the slash up to the nape",
        },
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_mark_is_on_the_walk_once() {
        let mut walked: Vec<Named> = WALK.to_vec();
        walked.sort();
        walked.dedup();
        assert_eq!(walked.len(), Cross::ALL.len() + Run::ALL.len());
    }

    #[test]
    fn a_dart_that_is_not_there_has_no_marks_and_a_back_none_at_its_side() {
        let codes = |piece, darts: &[DartPlace]| -> Vec<&str> {
            checklist(piece, Material::Toile, darts).iter().map(|wanted| wanted.mark.code()).collect()
        };
        let plain = codes(Draped::Front, &[]);
        assert!(!plain.iter().any(|code| code.contains("dart_in") || code.contains("dart_out")), "{plain:?}");
        assert!(!plain.contains(&"armhole_lower_dots") && plain.contains(&"bust_point"));
        assert!(!plain.iter().any(|code| code.contains("slash")), "{plain:?}");
        let back = codes(Draped::Back, &[DartPlace::Side, DartPlace::Waist]);
        assert!(!back.iter().any(|code| code.starts_with("side_dart")), "{back:?}");
        assert!(back.contains(&"waist_dart_point") && !back.contains(&"bust_point"));
    }
}
