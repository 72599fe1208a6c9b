//! What she wishes, as steps of a recipe: the readings that say how a garment is to be, turned into the amounts of the
//! alteration that makes it so (handbook: `wishes.md`). A wish corrects nothing: it stands beside the plan, not in it.

use serde::{Deserialize, Serialize};

use crate::Style;
use crate::alter::{Alteration, Amounts, Decided, LEAST_SHAPED, Recipe, alteration, apply, suits};
use crate::body::{Measurement, Profile, catalogue};
use crate::ease::EaseSet;
use crate::pattern::{Garment, Pattern, PatternMeasure, measure};

/// A step that a wish asks for.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wish {
    /// Code of the alteration that makes it.
    pub alteration: String,
    /// Its name.
    pub name: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// Those of them that are the ease set's and not her wish: what is decided for a garment stays.
    pub usual: Vec<String>,
    /// What she wishes and what that makes, with the figures.
    pub says: String,
    /// The readings it is made of.
    pub readings: Vec<String>,
    /// Why it cannot be made on this block, where it cannot.
    pub refused: Option<String>,
}

/// A wish this near to what is there moves nothing, in millimetres (handbook: `wishes.md`, section 0).
const AS_IT_IS: f64 = 0.5;

/// What her readings wish for a garment from this block, that is made with this ease.
pub fn wishes(profile: &Profile, block: &Pattern, ease: &EaseSet, style: Style) -> Vec<Wish> {
    let mm = |code: &str| profile.get(code).filter(|figure| !figure.estimated).and_then(|figure| figure.mm);
    // What ends at the waist comes to its full length by a skirt that is joined there, anything else by its hem.
    let uneven = Uneven::of(profile);
    let joined = joined_skirt(&mm, uneven, block, style);
    let hem = if joined.is_some() { None } else { hem_length(&mm, uneven, block, style) };
    let all = [
        neckline(&mm, block, style),
        hem,
        blouse_length(&mm, block, style),
        skirt_length(&mm, block, style),
        joined,
        sleeve_shape(&mm, block, ease, style),
        under_bust_seam(&mm, block, style),
        strapless_edge(&mm, block, style),
        cut_in_one(&mm, block, style),
        off_shoulder_band(&mm, block, style),
    ];
    let kept = KEPT_SLEEVES.into_iter().map(|row| kept_sleeve(row, &mm, (block, ease), style));
    // What is wished of another garment is no wish of this one.
    let is_of_it = |wish: &Wish| {
        alteration(&wish.alteration).is_some_and(|known| known.garments().contains(&block.garment()))
    };
    all.into_iter().chain(kept).flatten().filter(is_of_it).collect()
}

/// To where a dress should end is measured on her, and wished all the same.
const FULL_LENGTH: &str = "full_length";

/// What can be wished of such a garment, in the order of the catalogue.
pub fn wishes_of(garment: Garment) -> impl Iterator<Item = &'static Measurement> {
    let is_of_it = move |row: &&Measurement| {
        let of = match row.code.as_str() {
            "skirt_length" => Garment::Skirt,
            code if super::WISHED.contains(&code) => Garment::Trousers,
            _ => Garment::Bodice,
        };
        of == garment
    };
    let is_kept = |row: &&Measurement| KEPT_SLEEVES.iter().any(|(code, _)| *code == row.code);
    let is_asked = move |row: &&Measurement| (row.wish || row.code == FULL_LENGTH) && !is_kept(row);
    catalogue().iter().filter(is_asked).filter(is_of_it)
}

impl Wish {
    /// Whether it is wished of such a garment, and not only possible by what was measured.
    pub fn is_wished(&self, garment: Garment) -> bool {
        wishes_of(garment).any(|row| self.readings.contains(&row.code))
    }

    /// The amounts of a step with these: what is her wish counts, and of what is only usual what the step has not decided.
    fn over(&self, decided: &Amounts) -> Amounts {
        let usual = |code: &str| self.usual.iter().any(|each| each == code);
        let decided_otherwise = decided.of_codes(usual);
        decided.clone().over(&self.amounts).over(&decided_otherwise)
    }
}

/// A recipe with what she wishes: a step that makes such a wish already is made to this one and keeps what else was decided for
/// it, any other comes to its place. What cannot be made is left out.
#[must_use]
pub fn with_wishes(recipe: &Recipe, wishes: &[Wish]) -> Recipe {
    let mut recipe = recipe.clone();
    for wish in wishes.iter().filter(|wish| wish.refused.is_none()) {
        let is_it =
            |step: &&mut crate::alter::Step| step.alteration == wish.alteration && step.side.is_none();
        match recipe.steps.iter_mut().find(is_it) {
            Some(step) if step.on && step.amounts == wish.over(&step.amounts) => {}
            Some(step) => {
                step.on = true;
                step.amounts = wish.over(&step.amounts);
                step.reason.clone_from(&wish.says);
            }
            None => {
                recipe.take(Decided::new(&wish.alteration, wish.amounts.clone(), &wish.says));
            }
        }
    }
    recipe
}

/// A wish by the alteration that makes it; refused where it cannot be made on this block.
fn wished(
    known: &dyn Alteration,
    (block, style): (&Pattern, Style),
    amounts: Amounts,
    says: String,
    readings: Vec<&str>,
) -> Wish {
    let refused = tried(known, (block, style), &amounts).err();
    told(known, amounts, says, readings, refused)
}

/// The block with such a wish, or why it cannot be made.
fn tried(
    known: &dyn Alteration,
    (block, style): (&Pattern, Style),
    amounts: &Amounts,
) -> Result<Pattern, String> {
    if !suits(known, block) {
        return Err(known.wants().to_owned());
    }
    apply(known, block, amounts, None, style).map(|made| made.pattern).map_err(|error| error.to_string())
}

fn told(
    known: &dyn Alteration,
    amounts: Amounts,
    says: String,
    readings: Vec<&str>,
    refused: Option<String>,
) -> Wish {
    Wish {
        alteration: known.code().to_owned(),
        name: known.name().to_owned(),
        amounts,
        usual: Vec::new(),
        says,
        readings: readings.into_iter().map(str::to_owned).collect(),
        refused,
    }
}

/// The readings that were taken as amounts: each by the parameter that it is.
fn read<'a>(
    mm: &dyn Fn(&str) -> Option<f64>,
    rows: impl IntoIterator<Item = (&'a str, &'a str)>,
) -> (Amounts, Vec<&'a str>) {
    let taken = rows.into_iter().filter_map(|(code, param)| Some((code, param, mm(code)?)));
    taken.fold((Amounts::default(), Vec::new()), |(amounts, mut readings), (code, param, mm)| {
        readings.push(code);
        (amounts.with(param, mm), readings)
    })
}

/// How wide and deep the neckline should be: what she does not say of it stays as it is.
fn neckline(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let known = alteration("neckline")?;
    let wishes = [
        ("neck_width", "width", "wide"),
        ("neck_depth_front", "amount", "deep in front"),
        ("neck_depth_back", "behind", "deep behind"),
    ];
    let (amounts, readings) = read(mm, wishes.map(|(code, param, _)| (code, param)));
    let says: Vec<String> = wishes
        .into_iter()
        .filter_map(|(code, _, words)| Some(format!("{} {words}", style.with_unit(mm(code)?))))
        .collect();
    if readings.is_empty() {
        return None;
    }
    Some(wished(known, (block, style), amounts, format!("A neckline {}.", says.join(", ")), readings))
}

/// How far the floor lies from her waist on her left and on her right, where she stands unevenly, in millimetres. Where it was
/// not measured to the floor on both sides, to the ankle or the knee.
#[derive(Clone, Copy, Debug)]
struct Uneven {
    /// The reading it is known from.
    reading: &'static str,
    /// How much further it is than in the middle: on her left, and on her right.
    by: [f64; 2],
}

impl Uneven {
    fn of(profile: &Profile) -> Option<Self> {
        let sides = |reading: &'static str| {
            let figure = profile.get(reading).filter(|figure| !figure.estimated)?;
            let (left, right) = figure.left_mm.zip(figure.right_mm)?;
            let half = (left - right) / 2.0;
            (half.abs() >= AS_IT_IS).then_some(Self { reading, by: [half, -half] })
        };
        ["waist_to_floor", "waist_to_ankle", "waist_to_knee"].into_iter().find_map(sides)
    }

    /// The amounts of a hem so far below the hip with each side's own, and what is said of it. What ends just below the hip hangs
    /// level all the same.
    fn added_to(
        self,
        known: &dyn Alteration,
        below_hip: f64,
        (amounts, says): (Amounts, String),
        readings: &mut Vec<&str>,
        style: Style,
    ) -> (Amounts, String) {
        let [left, right] = self.by;
        let may_be = |code: &str, mm: f64| {
            known.params().iter().any(|param| param.code == code && (param.low..=param.high).contains(&mm))
        };
        if below_hip < LEAST_SHAPED || !may_be("left_side", left) || !may_be("right_side", right) {
            return (amounts, says);
        }
        if !readings.contains(&self.reading) {
            readings.push(self.reading);
        }
        let (longer, by) = if left > 0.0 { ("left", left) } else { ("right", right) };
        let says = format!(
            "{says} She stands unevenly: at her {longer} it hangs {} lower than in the middle, on the other side as much higher.",
            style.with_unit(by)
        );
        (amounts.with("left_side", left).with("right_side", right), says)
    }
}

/// To where the dress should end, over the bust: what is left of it below her waist and hip.
fn hem_length(
    mm: &dyn Fn(&str) -> Option<f64>,
    uneven: Option<Uneven>,
    block: &Pattern,
    style: Style,
) -> Option<Wish> {
    let known = alteration("hem_length")?;
    let (full, to_waist) = (mm("full_length")?, mm("snp_to_waist_front")?);
    // Without a hip there is nothing to let down from.
    let to_hip = mm("waist_to_hip")?;
    let below_waist = full - to_waist;
    let below_hip = below_waist - to_hip;
    let mut readings = vec!["full_length", "snp_to_waist_front", "waist_to_hip"];
    let mut amounts = Amounts::of(below_hip);
    for (param, code) in [("knee", "waist_to_knee"), ("ankle", "waist_to_ankle"), ("floor", "waist_to_floor")]
    {
        let limits = known.params().iter().find(|each| each.code == param)?;
        if let Some(line) =
            mm(code).map(|mm| mm - to_hip).filter(|mm| (limits.low..=limits.high).contains(mm))
        {
            amounts = amounts.with(param, line);
            readings.push(code);
        }
    }
    let says = format!(
        "A full length of {}: {} below the waist, {} below the hip.",
        style.with_unit(full),
        style.with_unit(below_waist),
        style.with_unit(below_hip)
    );
    let (amounts, says) = match uneven {
        Some(uneven) => uneven.added_to(known, below_hip, (amounts, says), &mut readings, style),
        None => (amounts, says),
    };
    Some(wished(known, (block, style), amounts, says, readings))
}

/// To where a blouse should end, down the back or over the bust: above the hip, or below it.
fn blouse_length(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let known = alteration("hem_length")?;
    let down_the_back = ["blouse_length", "nape_to_waist_back"];
    let over_the_bust = ["blouse_length_front", "snp_to_waist_front"];
    let (way_there, from) = match mm(down_the_back[0]) {
        Some(_) => (down_the_back, "from the nape"),
        None => (over_the_bust, "from the neck side, over the bust"),
    };
    let [blouse, to_waist] = way_there.map(mm);
    let (blouse, to_waist, to_hip) = (blouse?, to_waist?, mm("waist_to_hip")?);
    let below_waist = blouse - to_waist;
    let below_hip = below_waist - to_hip;
    let way = if below_hip < 0.0 { "above" } else { "below" };
    let says = format!(
        "A blouse of {} {from}: {} below the waist, {} {way} the hip.",
        style.with_unit(blouse),
        style.with_unit(below_waist),
        style.with_unit(below_hip.abs())
    );
    let readings = way_there.into_iter().chain(["waist_to_hip"]).collect();
    Some(wished(known, (block, style), Amounts::of(below_hip), says, readings))
}

/// How long the skirt should be, down the side: what it is longer than the block.
fn skirt_length(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let known = alteration("skirt_length")?;
    let (wished_mm, is) = (mm("skirt_length")?, measure(block).get(PatternMeasure::SkirtSideFront)?);
    let longer = wished_mm - is;
    if longer.abs() < AS_IT_IS {
        return None;
    }
    let way = if longer > 0.0 { "longer" } else { "shorter" };
    let says = format!(
        "A skirt {} long: {} {way} than the block.",
        style.with_unit(wished_mm),
        style.with_unit(longer.abs())
    );
    Some(wished(known, (block, style), Amounts::of(longer), says, vec!["skirt_length"]))
}

/// A skirt on a bodice that ends at the waist: to where the dress should end over the bust, or as long as the skirt should be.
fn joined_skirt(
    mm: &dyn Fn(&str) -> Option<f64>,
    uneven: Option<Uneven>,
    block: &Pattern,
    style: Style,
) -> Option<Wish> {
    let known = alteration("joined_skirt").filter(|known| suits(*known, block))?;
    let (hip, to_hip) = (mm("hip_girth")?, mm("waist_to_hip")?);
    let (length, readings, says) = match (mm("full_length").zip(mm("snp_to_waist_front")), mm("skirt_length"))
    {
        (Some((full, to_waist)), _) => {
            let below = full - to_waist;
            let says = format!(
                "A full length of {}: a skirt {} long is joined at the waist.",
                style.with_unit(full),
                style.with_unit(below)
            );
            (below, vec!["full_length", "snp_to_waist_front"], says)
        }
        (None, Some(length)) => {
            let says = format!("A skirt {} long, joined at the waist.", style.with_unit(length));
            (length, vec!["skirt_length"], says)
        }
        (None, None) => return None,
    };
    let amounts = Amounts::of(length).with("hip", hip).with("to_hip", to_hip);
    let lines = [("waist_to_knee", "knee"), ("waist_to_ankle", "ankle"), ("waist_to_floor", "floor")];
    let (lines, drawn) = read(mm, lines);
    let mut readings: Vec<&str> =
        readings.into_iter().chain(["hip_girth", "waist_to_hip"]).chain(drawn).collect();
    let made = (amounts.over(&lines), says);
    let (amounts, says) = match uneven {
        Some(uneven) => uneven.added_to(known, length - to_hip, made, &mut readings, style),
        None => made,
    };
    Some(wished(known, (block, style), amounts, says, readings))
}

/// Where a seam under the bust would lie: her own level there, below the bust point.
fn under_bust_seam(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    // Being measured there is no wish yet: it is offered where it can be made. Where a cup height is wished, it is what that
    // is measured from.
    if mm("cup_height").is_some() {
        return None;
    }
    let known = alteration("under_bust_seam").filter(|known| suits(*known, block))?;
    let (under_bust, bust_point) = (mm("snp_to_under_bust")?, mm("snp_to_bust_point")?);
    let below = under_bust - bust_point;
    let amounts = Amounts::of(below);
    let made = tried(known, (block, style), &amounts);
    let seam = made.as_ref().ok().and_then(|made| measure(made).get(PatternMeasure::UnderBust));
    let mut readings = vec!["snp_to_under_bust", "snp_to_bust_point"];
    let round = seam.zip(mm("under_bust_girth")).map(|(seam, girth)| {
        readings.push("under_bust_girth");
        let ease = style.written(seam) - style.written(girth);
        let than = if ease < 0.0 {
            format!("{} tighter than she is: let the side seams out first", style.with_unit(-ease))
        } else {
            format!("{} of ease", style.with_unit(ease))
        };
        format!(" All round {} there, and she {}: {than}.", style.with_unit(seam), style.with_unit(girth))
    });
    let says = format!(
        "Under the bust at {} from the neck side, over the bust: {} below the bust point.{}",
        style.with_unit(under_bust),
        style.with_unit(below),
        round.unwrap_or_default()
    );
    Some(told(known, amounts, says, readings, made.err()))
}

/// What is known of her arm, by the parameters of a sleeve.
const ARM: [(&str, &str); 5] = [
    ("upper_arm_girth", "upper_arm"),
    ("elbow_girth", "elbow"),
    ("wrist_girth", "wrist"),
    ("hand_girth", "hand"),
    ("arm_length", "arm_length"),
];

/// How far from the nape a sleeve in one with the body should reach.
fn cut_in_one(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let known = alteration("cut_in_one")?;
    let from_nape = mm("nape_to_sleeve_end")?;
    let (amounts, readings) = read(
        mm,
        [
            ("nape_to_sleeve_end", "amount"),
            ("shoulder_width", "shoulder_width"),
            ("sleeve_opening_girth", "opening"),
            ("nape_to_wrist", "to_wrist"),
            ("nape_to_elbow", "to_elbow"),
        ]
        .into_iter()
        .chain(ARM),
    );
    let says = format!("Sleeves in one with the body, to {} from the nape.", style.with_unit(from_nape));
    Some(wished(known, (block, style), amounts, says, readings))
}

/// What she wishes of an edge without shoulders, by its parameters: a cup height makes it one.
fn strapless_amounts<'a>(mm: &dyn Fn(&str) -> Option<f64>) -> Option<(Amounts, Vec<&'a str>)> {
    mm("cup_height")?;
    Some(read(
        mm,
        [
            ("cup_height", "amount"),
            ("neckline_drop", "drop"),
            ("snp_to_under_bust", "under_bust"),
            ("upper_bust_girth", "upper_bust"),
            ("bust_girth", "bust"),
        ],
    ))
}

/// How high the cups should be: an edge without shoulders, fitted to her girths there.
fn strapless_edge(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let known = alteration("strapless_edge")?;
    let (amounts, readings) = strapless_amounts(mm)?;
    let drop = mm("neckline_drop")
        .map_or(String::new(), |drop| format!(", at the centre {} below the pit", style.with_unit(drop)));
    let says = format!("An edge without shoulders: cups {} high{drop}.", style.with_unit(amounts.amount()));
    Some(wished(known, (block, style), amounts, says, readings))
}

/// A band over the arms is worn so high where nothing else is said, in millimetres (common practice, no source).
const USUAL_BAND: f64 = 70.0;

/// A band over both upper arms: offered with an edge without shoulders, where she was measured round both, or over one
/// from crease to crease.
fn off_shoulder_band(mm: &dyn Fn(&str) -> Option<f64>, block: &Pattern, style: Style) -> Option<Wish> {
    let (edge, known) = (alteration("strapless_edge")?, alteration("off_shoulder_band")?);
    let (reading, param, words) = match (mm("round_shoulder_girth"), mm("upper_arm_front_to_back")) {
        (Some(_), _) => ("round_shoulder_girth", "round", "round both"),
        (None, Some(_)) => ("upper_arm_front_to_back", "over", "over each"),
        (None, None) => return None,
    };
    // It is sewn to the edge that she wishes as well, where that can be made.
    let cut_off = strapless_amounts(mm).and_then(|(amounts, _)| tried(edge, (block, style), &amounts).ok());
    let under = cut_off.as_ref().unwrap_or(block);
    suits(known, under).then(|| {
        let measured = mm(reading).unwrap_or_default();
        let says = format!(
            "A band on the upper edge and over both arms: {} {words} as she was measured.",
            style.with_unit(measured)
        );
        let amounts = Amounts::of(USUAL_BAND).with(param, measured);
        wished(known, (under, style), amounts, says, vec![reading])
    })
}

/// A wish for a sleeve, as much wider than her arm as the ease set has it.
fn sleeve_wished(
    known: &dyn Alteration,
    (block, ease, style): (&Pattern, &EaseSet, Style),
    amounts: Amounts,
    says: String,
    readings: Vec<&str>,
) -> Wish {
    let ease = ease.along_the_arm();
    let further = [("ease_elbow", ease.elbow), ("ease_wrist", ease.wrist)];
    let usual = std::iter::once(("ease", ease.upper_arm))
        .chain(further.into_iter().filter(|(_, further)| *further != ease.upper_arm));
    let (amounts, usual) = usual.fold((amounts, Vec::new()), |(amounts, mut usual), (param, mm)| {
        usual.push(param.to_owned());
        (amounts.with(param, mm), usual)
    });
    Wish { usual, ..wished(known, (block, style), amounts, says, readings) }
}

/// How long and how wide at its edge the sleeve should be, with what is known of her arm.
fn sleeve_shape(
    mm: &dyn Fn(&str) -> Option<f64>,
    block: &Pattern,
    ease: &EaseSet,
    style: Style,
) -> Option<Wish> {
    let known = alteration("sleeve_shape")?;
    let (length, opening) = (mm("sleeve_length"), mm("sleeve_opening_girth"));
    // Of a sleeve in one with the body the opening is that one's.
    let is_in_one = mm("nape_to_sleeve_end").is_some();
    if length.is_none() && (opening.is_none() || is_in_one) {
        return None;
    }
    let (amounts, readings) =
        read(mm, [("sleeve_length", "amount"), ("sleeve_opening_girth", "opening")].into_iter().chain(ARM));
    let says: Vec<String> = [(length, "long"), (opening, "round at its edge")]
        .into_iter()
        .filter_map(|(mm, words)| Some(format!("{} {words}", style.with_unit(mm?))))
        .collect();
    let says = format!("A sleeve {}.", says.join(", "));
    Some(sleeve_wished(known, (block, ease, style), amounts, says, readings))
}

/// Sleeves whose lengths are kept on her card beside the one that is wished of a garment: each by its reading and its name.
const KEPT_SLEEVES: [(&str, &str); 3] = [
    ("sleeve_length_short", "short sleeve"),
    ("sleeve_length_elbow", "sleeve to the elbow"),
    ("sleeve_length_three_quarter", "three-quarter sleeve"),
];

/// A sleeve as long as she likes one of its kind: offered, and wished of a garment only where it is said of that.
fn kept_sleeve(
    (code, name): (&'static str, &str),
    mm: &dyn Fn(&str) -> Option<f64>,
    (block, ease): (&Pattern, &EaseSet),
    style: Style,
) -> Option<Wish> {
    let known = alteration("sleeve_shape").filter(|known| suits(*known, block))?;
    let length = mm(code)?;
    let (amounts, readings) = read(mm, [(code, "amount")].into_iter().chain(ARM));
    let says = format!("Her {name}: {} long.", style.with_unit(length));
    Some(sleeve_wished(known, (block, ease, style), amounts, says, readings))
}
