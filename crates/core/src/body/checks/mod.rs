//! Doubting a reading. Eight rules, a module a kind; nothing here ever blocks saving.
//!
//! `range` (the range, a slipped unit, exchanged digits), `odd` (a figure the other readings contradict: exchanged
//! digits inside the range, exchanged neighbours), `relation`, `record` (sides, repeats, the last time, age). Level
//! lines are their own thing: [`super::check_level`].

mod meant;
mod odd;
mod range;
mod record;
mod relation;

use serde::{Deserialize, Serialize};

use super::{Body, FINGER, Measurement, Side, Taken, Worth, measurement, worth};
use crate::{Entered, Length, Style};

pub use range::cannot_be;
pub use record::check_age;

/// How serious a finding is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Grade {
    /// Worth knowing.
    Note,
    /// Outside the range, or breaks a relation.
    Doubt,
    /// Cannot be a body.
    Stop,
}

/// Which rule found it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum FindingKind {
    /// Outside the plausible range.
    Range,
    /// Plausible in another unit.
    UnitSlip,
    /// Plausible with two digits exchanged.
    DigitSwap,
    /// Plausible doubled: half a girth.
    HalfGirth,
    /// Plausible from the nape round the neck side.
    FromTheNape,
    /// Plausible with the neighbouring row's figure.
    NeighbourSwap,
    /// At odds with another reading.
    Relation,
    /// Left and right differ.
    Sides,
    /// Takes too far apart.
    Repeat,
    /// Not what it was last time.
    Changed,
    /// Older than the house allows before cutting.
    Age,
    /// Taken in a way that has no honest conversion, or assumed.
    School,
}

/// A figure that would be plausible instead.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Repair {
    /// What to put into the field.
    pub text: String,
    /// The length it means, in millimetres.
    pub mm: f64,
    /// The neighbouring measurement to exchange figures with.
    pub exchange_with: Option<String>,
    /// How it was probably taken: the figure stays as it was typed.
    pub school: Option<WayTaken>,
}

impl Repair {
    /// A text to put into the field; what it means is to be filled in.
    fn text(text: String) -> Self {
        Self { text, mm: 0.0, exchange_with: None, school: None }
    }
}

/// One way of taking a reading: the matter, and its school.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WayTaken {
    /// Code of the matter.
    pub matter: String,
    /// Code of its school.
    pub code: String,
}

/// One doubt about a reading: what, why, and what to do.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Finding {
    /// The reading it is about.
    pub measurement: String,
    /// Which rule.
    pub kind: FindingKind,
    /// How serious.
    pub grade: Grade,
    /// What and why.
    pub says: String,
    /// What to do.
    pub remedy: String,
    /// A repaired figure to take over.
    pub repair: Option<Repair>,
}

/// What is known beside the reading that is checked.
#[derive(Clone, Debug, Default)]
pub struct Beside {
    /// Her other figures, in the catalogue's convention.
    pub body: Body,
    /// Which side is measured.
    pub side: Side,
    /// The figure of her other side, in millimetres.
    pub other_side: Option<f64>,
    /// Earlier takes of the same measurement in this session, in millimetres.
    pub takes: Vec<f64>,
    /// The figure of an earlier session.
    pub last: Option<Earlier>,
    /// How this one is taken.
    pub taken: Taken,
    /// The rows before and after it, whose figures stand in `body`.
    pub neighbours: Vec<String>,
    /// One finger under the tape, in millimetres; none is the usual [`FINGER`].
    pub finger: Option<f64>,
}

impl Beside {
    /// Nothing but the other figures.
    pub fn body(body: Body) -> Self {
        Self { body, ..Self::default() }
    }
}

/// A figure of an earlier session.
#[derive(Clone, Debug, PartialEq)]
pub struct Earlier {
    /// Millimetres.
    pub mm: f64,
    /// How it was taken.
    pub taken: Taken,
    /// Whole days ago.
    pub days_ago: i64,
}

/// Every doubt about one reading, the gravest rule first. Wishes are checked by their range only.
pub fn check_reading(row: &Measurement, entered: &Entered, beside: &Beside, style: Style) -> Vec<Finding> {
    let mut findings: Vec<_> = range::check(row, entered, beside, style).into_iter().collect();
    if row.wish {
        return findings;
    }
    let mm = entered.length.mm();
    if findings.is_empty() {
        findings
            .extend(odd::digits(row, entered, beside).or_else(|| odd::start(row, entered, beside, style)));
    }
    // Where a figure is already read otherwise, exchanging it as well would be a second guess.
    if findings.iter().all(|finding| finding.repair.is_none()) {
        findings.extend(odd::neighbours(row, mm, beside, style));
    }
    let comparable = match worth(row, mm, &beside.taken, &beside.body, beside.finger.unwrap_or(FINGER)) {
        Worth::AsTaken => Some(mm),
        Worth::Assumed { says } => {
            findings.push(way_taken(
                row,
                Grade::Note,
                format!("{says}: assumed, and asked for again."),
                "measure it where it is",
            ));
            Some(mm)
        }
        Worth::Converted { mm: converted, give, says } => {
            let (to, give) = (style.with_unit(converted), style.with_unit(give));
            findings.push(way_taken(
                row,
                Grade::Note,
                format!("{says}: drafting and comparison use {to}, give or take {give}."),
                "nothing, or measure it the usual way",
            ));
            Some(converted)
        }
        Worth::Ask { says } => {
            findings.push(way_taken(
                row,
                Grade::Note,
                format!("{says}."),
                "take the reading the usual way as well",
            ));
            None
        }
    };
    if let Some(comparable) = comparable {
        let body = beside.body.clone().with(&row.code, comparable);
        findings.extend(relation::broken(&body, Some(&row.code), style));
    }
    findings.extend(record::check(row, mm, beside, style));
    // How a reading was taken is written down in millimetres.
    for finding in &mut findings {
        finding.says = style.say(&finding.says);
    }
    findings
}

fn way_taken(row: &Measurement, grade: Grade, says: String, remedy: &str) -> Finding {
    let remedy = remedy.to_owned();
    Finding { measurement: row.code.clone(), kind: FindingKind::School, grade, says, remedy, repair: None }
}

/// Checks a whole body: every range and every relation once.
pub fn check_body(body: &Body, style: Style) -> Vec<Finding> {
    let ranges = body.iter().filter_map(|(code, mm)| {
        let row = measurement(code)?;
        let entered = Entered { length: Length::from_mm(mm), typed: String::new(), unit: style.unit() };
        range::check(row, &entered, &Beside::body(body.clone()), style)
    });
    ranges.chain(relation::broken(body, None, style)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unit;

    fn check(code: &str, typed: &str, unit: Unit, others: &[(&str, f64)]) -> Vec<Finding> {
        let others = others.iter().map(|(c, mm)| (*c, *mm)).collect();
        let entered = Length::read(typed, unit).unwrap();
        check_reading(measurement(code).unwrap(), &entered, &Beside::body(others), Style::EIGHTHS)
    }

    #[test]
    fn inches_typed_as_centimetres_are_offered_back_as_inches() {
        let findings = check("bust_girth", "36", Unit::Cm, &[]);
        assert_eq!(findings[0].kind, FindingKind::UnitSlip);
        assert_eq!(findings[0].repair.as_ref().unwrap().text, "36 in");
        assert!((findings[0].repair.as_ref().unwrap().mm - 914.4).abs() < 1e-9);
    }

    #[test]
    fn centimetres_typed_as_inches_are_offered_back_as_centimetres() {
        let findings = check("bust_girth", "94", Unit::Inch, &[]);
        assert_eq!(findings[0].repair.as_ref().unwrap().text, "94 cm");
        assert_eq!(findings[0].grade, Grade::Doubt);
    }

    #[test]
    fn exchanged_digits_are_offered_back() {
        let findings = check("waist_girth", "92", Unit::Inch, &[]);
        // 92 in reads better as 92 cm than as 29 in: the slip goes before the swap.
        assert_eq!(findings[0].kind, FindingKind::UnitSlip);
        let findings = check("shoulder_length", "52", Unit::Cm, &[]);
        assert_eq!(findings[0].kind, FindingKind::Range, "25 cm is no shoulder either");
        let findings = check("nape_to_waist_back", "83", Unit::Cm, &[]);
        assert_eq!(findings[0].kind, FindingKind::DigitSwap);
        assert_eq!(findings[0].repair.as_ref().unwrap().text, "38");
    }

    #[test]
    fn what_cannot_be_a_body_is_a_stop() {
        assert_eq!(check("bust_girth", "15", Unit::Inch, &[])[0].grade, Grade::Stop);
        assert_eq!(check("bust_girth", "26", Unit::Inch, &[])[0].grade, Grade::Doubt);
    }

    #[test]
    fn a_broken_relation_says_both_sides_and_the_way_out() {
        let findings = check("across_back", "17", Unit::Inch, &[("shoulder_width", 400.0)]);
        let [finding] = findings.as_slice() else { panic!("{findings:?}") };
        assert_eq!(
            finding.says,
            "Shoulder width is usually above across back, and at most 3/8 in under it; here the difference is \u{2212}1 1/4 in."
        );
        assert!(!finding.remedy.is_empty());
    }

    /// Aldrich size 12 and its neighbours (check values, 3a): nobody there may raise a stop or a doubt.
    #[test]
    fn bodies_from_a_published_table_pass() {
        for (bust, waist, back, chest, shoulder, neck, nape, depth) in [
            (800.0, 600.0, 324.0, 300.0, 117.5, 350.0, 390.0, 200.0),
            (840.0, 640.0, 334.0, 312.0, 120.0, 360.0, 395.0, 205.0),
            (880.0, 680.0, 344.0, 324.0, 122.5, 370.0, 400.0, 210.0),
            (920.0, 720.0, 354.0, 336.0, 125.0, 380.0, 405.0, 215.0),
        ] {
            let body: Body = [
                ("bust_girth", bust),
                ("waist_girth", waist),
                ("across_back", back),
                ("across_front", chest),
                ("shoulder_length", shoulder),
                ("neck_base_girth", neck),
                ("nape_to_waist_back", nape),
                ("armhole_depth", depth),
            ]
            .into_iter()
            .collect();
            let findings = check_body(&body, Style::TENTHS);
            assert!(findings.is_empty(), "{findings:?}");
        }
    }

    fn beside(others: &[(&str, f64)]) -> Beside {
        Beside::body(others.iter().copied().collect())
    }

    fn kinds(code: &str, typed: &str, beside: &Beside) -> Vec<FindingKind> {
        let entered = Length::read(typed, Unit::Inch).unwrap();
        let found = check_reading(measurement(code).unwrap(), &entered, beside, Style::EIGHTHS);
        found.into_iter().map(|finding| finding.kind).collect()
    }

    #[test]
    fn a_swap_inside_the_range_is_found_by_what_the_others_say() {
        let others = beside(&[("upper_bust_girth", 838.0), ("waist_girth", 686.0), ("hip_girth", 940.0)]);
        let entered = Length::read("43", Unit::Inch).unwrap();
        let found = check_reading(measurement("bust_girth").unwrap(), &entered, &others, Style::EIGHTHS);
        assert_eq!(found[0].kind, FindingKind::DigitSwap);
        assert_eq!(found[0].repair.as_ref().unwrap().text, "34");
        assert!(kinds("bust_girth", "34", &others).is_empty(), "the right figure is left alone");
    }

    #[test]
    fn neighbours_in_each_others_rows_are_offered_for_exchange() {
        // Waist 36 1/2 and hip 27: each in range, only plausible exchanged.
        let mut others = beside(&[("bust_girth", 885.0), ("under_bust_girth", 750.0), ("hip_girth", 690.0)]);
        others.neighbours = vec!["hip_girth".into()];
        let entered = Length::read("36 1/2", Unit::Inch).unwrap();
        let found = check_reading(measurement("waist_girth").unwrap(), &entered, &others, Style::EIGHTHS);
        let swap = found.iter().find(|finding| finding.kind == FindingKind::NeighbourSwap).expect("a swap");
        let repair = swap.repair.as_ref().unwrap();
        assert_eq!((repair.exchange_with.as_deref(), repair.text.as_str()), (Some("hip_girth"), "27 1/8"));
    }

    #[test]
    fn sides_apart_are_a_fact_about_her_not_an_error() {
        let mut left = beside(&[]);
        (left.side, left.other_side) = (Side::Left, Some(120.0));
        assert_eq!(kinds("shoulder_length", "5", &left), [FindingKind::Sides]);
        left.other_side = Some(122.0);
        assert!(kinds("shoulder_length", "5", &left).is_empty());
    }

    #[test]
    fn a_second_take_too_far_off_asks_for_a_third() {
        let mut again = beside(&[]);
        again.takes = vec![900.0];
        assert_eq!(kinds("bust_girth", "36 1/4", &again), [FindingKind::Repeat]);
        again.takes = vec![900.0, 921.0];
        assert!(kinds("bust_girth", "36", &again).is_empty());
    }

    #[test]
    fn a_change_since_last_time_says_whether_the_method_changed() {
        let mut now = beside(&[]);
        now.last = Some(Earlier { mm: 700.0, taken: Taken::default(), days_ago: 120 });
        assert_eq!(kinds("waist_girth", "28 1/2", &now), [FindingKind::Changed]);
        assert!(kinds("waist_girth", "28", &now).is_empty());
        if let Some(last) = &mut now.last {
            last.taken.schools.insert("waist".into(), "navel".into());
        }
        let entered = Length::read("28 1/2", Unit::Inch).unwrap();
        let found = check_reading(measurement("waist_girth").unwrap(), &entered, &now, Style::EIGHTHS);
        assert!(found[0].says.contains("then it was taken the waist is the navel"), "{}", found[0].says);
    }

    #[test]
    fn a_drawn_in_waist_wants_the_natural_one_and_confirmation_beyond_a_tenth() {
        assert_eq!(kinds("waist_girth_drawn_in", "26", &beside(&[])), [FindingKind::Relation]);
        let natural = beside(&[("waist_girth", 711.2)]);
        assert!(kinds("waist_girth_drawn_in", "26", &natural).is_empty());
        let entered = Length::read("25", Unit::Inch).unwrap();
        let found =
            check_reading(measurement("waist_girth_drawn_in").unwrap(), &entered, &natural, Style::EIGHTHS);
        assert!(found[0].says.contains("doctor"), "{found:?}");
    }

    #[test]
    fn a_reading_from_the_nape_is_related_after_conversion() {
        let mut nape = beside(&[("snp_to_waist_back", 420.0), ("neck_base_girth", 370.0)]);
        nape.taken.schools.insert("start".into(), "nape".into());
        // 20 3/8 in from the nape is 440 from the neck side: plausible, and said.
        assert_eq!(kinds("snp_to_waist_front", "20 3/8", &nape), [FindingKind::School]);
        nape.taken = Taken::default();
        assert!(kinds("snp_to_waist_front", "20 3/8", &nape).contains(&FindingKind::Relation));
    }

    #[test]
    fn old_figures_are_asked_for_again_sooner_where_she_is_changing() {
        let row = measurement("waist_girth").unwrap();
        assert!(check_age(row, 90, 90, false).is_none());
        assert_eq!(check_age(row, 91, 90, false).unwrap().kind, FindingKind::Age);
        assert!(check_age(row, 31, 90, true).is_some());
    }

    #[test]
    fn a_wish_is_checked_by_its_range_only() {
        let others = beside(&[("arm_length", 300.0), ("bust_girth", 900.0)]);
        assert!(kinds("sleeve_length", "12", &others).is_empty());
        assert_eq!(kinds("sleeve_length", "80", &others), [FindingKind::Range]);
    }
}
