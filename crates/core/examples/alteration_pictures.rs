//! Pictures of every alteration, before and after, and the page that shows them: `docs/alterations.md`.
//!
//! Drawn from the core alone, on the handbook's invented body. Run by `cargo xtask shots`; the folder to write to
//! is the first argument.

#[path = "../tests/it/cells.rs"]
#[allow(unused_imports, reason = "its test wants more than the table does")]
mod cells;
#[path = "../tests/it/common/mod.rs"]
mod common;

use std::fmt::Write;
use std::path::PathBuf;

use common::worked_body;
use yardwand_core::Style;
use yardwand_core::alter::{
    Alteration, Amounts, Args, Preview, Recipe, alteration, amount_views, choices, preview, registry,
};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, PieceDrawing};

const STYLE: Style = Style::EIGHTHS;
/// Between two pieces of a picture, and round them, in millimetres.
const ROOM: f64 = 24.0;

/// An alteration as it is pictured: file name, code, amounts.
fn pictured() -> Vec<(&'static str, &'static str, Amounts)> {
    let of = Amounts::of;
    let one = |code: &'static str, mm: f64| (code, code, of(mm));
    vec![
        one("full_bust", 20.0),
        ("small_bust", "full_bust", of(-4.0)),
        ("full_bust_waist", "full_bust", of(14.0).by("to", "waist")),
        ("full_bust_gathers", "full_bust", of(14.0).by("to", "gathers")),
        ("full_bust_dress", "full_bust", of(20.0).by("below_waist", "to_hem")),
        ("full_bust_dress_at_hip", "full_bust", of(16.0).by("below_waist", "at_hip")),
        ("move_dart", "move_dart", of(1.0).by("to", "shoulder")),
        ("move_dart_french", "move_dart", of(1.0).by("to", "french")),
        ("move_dart_armhole", "move_dart", of(1.0).by("from", "waist").by("to", "armhole")),
        ("split_dart", "split_dart", of(0.5)),
        ("gather_dart", "gather_dart", of(1.0)),
        ("neckline", "neckline", of(140.0).with("width", 180.0).with("behind", 100.0)),
        (
            "neckline_v",
            "neckline",
            of(190.0)
                .with("width", 170.0)
                .with("behind", 180.0)
                .by("shape", "v")
                .by("shape_behind", "v")
                .with("gape", 7.0),
        ),
        (
            "neckline_square",
            "neckline",
            of(165.0)
                .with("width", 200.0)
                .with("behind", 110.0)
                .by("shape", "square")
                .by("shape_behind", "square"),
        ),
        (
            "neckline_sweetheart",
            "neckline",
            of(170.0).with("width", 210.0).with("behind", 40.0).by("shape", "sweetheart"),
        ),
        ("neckline_wide", "neckline", of(90.0).with("width", 270.0).with("behind", 40.0)),
        ("hem_length_dress", "hem_length", of(430.0).with("knee", 370.0)),
        ("hem_length_dress_blouse", "hem_length", of(-35.0)),
        (
            "hem_length_dress_uneven",
            "hem_length",
            of(430.0).with("left_side", 25.0).with("right_side", -25.0),
        ),
        ("hem_length_dress_flared", "hem_length", of(430.0).with("out", 60.0)),
        ("skirt_rise_skirt", "skirt_rise", of(-14.0)),
        ("skirt_dart_skirt", "skirt_dart", of(-20.0).by("piece", "back")),
        ("high_hip_skirt", "high_hip", of(20.0)),
        ("skirt_belly_skirt", "skirt_belly", of(25.0)),
        ("skirt_seat_skirt", "skirt_seat", of(-18.0)),
        ("skirt_length_skirt", "skirt_length", of(120.0).with("out", 50.0)),
        ("side_seams_skirt", "side_seams", of(0.0).with("waist", 8.0).with("hip", 10.0)),
        ("sleeve_shape_short", "sleeve_shape", of(230.0)),
        (
            "sleeve_shape_gathered",
            "sleeve_shape",
            of(560.0).with("opening", 230.0).by("lies", "gathered").with("cuff", 50.0).by("opens", "cuff"),
        ),
        ("elbow_dart", "elbow_dart", of(8.0)),
        ("dart_point", "dart_point", of(14.0).with("out", -8.0)),
        one("shoulder_length", 12.0),
        one("narrow_shoulder", 16.0),
        one("narrow_shoulder_slash", 16.0),
        one("shoulder_slope", 12.0),
        one("forward_shoulder", 12.0),
        one("rounded_back", 18.0),
        ("rounded_back_high", "rounded_back", of(14.0).with("level", 60.0)),
        (
            "rounded_back_pinned",
            "rounded_back",
            of(18.0).with("pinned_at_level", 2.0).with("pinned_half_way", 9.0),
        ),
        ("rounded_back_neck_dart", "rounded_back", of(18.0).by("finish", "neck_dart")),
        ("rounded_back_shoulder_dart", "rounded_back", of(5.0).by("finish", "shoulder_dart")),
        ("erect_back", "rounded_back", of(-10.0)),
        one("sway_back", 15.0),
        ("seat_length_dress", "seat_length", of(-14.0)),
        ("belly_length_dress", "belly_length", of(16.0)),
        one("neck_forward", 10.0),
        one("side_seam_place", 10.0),
        ("side_seam_place_skirt", "side_seam_place", of(-10.0)),
        ("hip_curve_dress", "hip_curve", of(-6.0)),
        ("hip_curve_skirt", "hip_curve", of(6.0)),
        one("sleeve_turn", 12.0),
        one("gaping_armhole", 14.0),
        one("gaping_neckline", 10.0),
        one("princess_line", 16.0),
        ("princess_line_shoulder", "princess_line", of(10.0).by("from", "shoulder").with("place", 0.65)),
        ("princess_line_back", "princess_line", of(0.0).by("piece", "back")),
        ("princess_line_back_shoulder", "princess_line", of(0.0).by("piece", "back").by("from", "shoulder")),
        ("princess_line_neckline", "princess_line", of(0.0).by("from", "neckline").with("starts", 0.7)),
        ("princess_line_own", "princess_line", of(0.0).by("from", "shoulder").with("starts", 0.6)),
        ("princess_line_dress", "princess_line", of(12.0)),
        ("princess_line_proportional", "princess_line", of(12.0)),
        ("under_bust_seam", "under_bust_seam", of(70.0)),
        ("under_bust_seam_dart", "under_bust_seam", of(70.0).by("fullness", "dart")),
        ("under_bust_seam_cups", "under_bust_seam", of(70.0).by("fullness", "cups")),
        ("under_bust_seam_fuller", "under_bust_seam", of(70.0).with("spread", 60.0)),
        ("under_bust_seam_proportional", "under_bust_seam", of(70.0)),
        ("facings", "facings", of(60.0)),
        ("facings_armholes", "facings", of(50.0).by("edge", "armholes")),
        ("facings_in_one", "facings", of(75.0).by("edge", "in_one")),
        ("collar_stand", "collar_stand", of(35.0)),
        ("waistband", "waistband", of(35.0)),
        (
            "joined_skirt_flared",
            "joined_skirt",
            of(590.0).with("hip", 980.0).with("to_hip", 205.0).with("out", 40.0).with("knee", 560.0),
        ),
        ("pleat", "pleat", of(50.0)),
        ("curve_dart", "curve_dart", of(5.0)),
        ("cuffs", "cuffs", of(60.0)),
        ("bias_strips", "bias_strips", of(32.0)),
        ("off_shoulder_band", "off_shoulder_band", of(75.0).with("round", 1330.0)),
        ("cut_in_one", "cut_in_one", of(520.0).with("shoulder_width", 393.7).with("upper_arm", 284.0)),
        ("cut_in_one_dress", "cut_in_one", of(700.0).with("shoulder_width", 393.7).with("upper_arm", 284.0)),
        ("strapless_edge", "strapless_edge", of(130.0)),
        (
            "strapless_edge_laced",
            "strapless_edge",
            of(130.0).with("gap", 60.0).by("shape", "sweetheart").with("drop", 150.0),
        ),
        ("strapless_edge_dress", "strapless_edge", of(125.0)),
        ("back_width_dress", "back_width", of(10.0)),
        ("sway_back_dress", "sway_back", of(15.0)),
        ("split_dart_dress", "split_dart", of(0.5)),
        ("full_bust_proportional", "full_bust", of(16.0)),
        ("front_balance_proportional", "front_balance", of(14.0)),
        ("gaping_armhole_proportional", "gaping_armhole", of(12.0)),
        ("shoulder_slope_proportional", "shoulder_slope", of(12.0)),
        one("length", 25.0),
        one("front_balance", 16.0),
        one("back_width", 10.0),
        one("front_width", 8.0),
        ("side_seams", "side_seams", of(10.0).with("waist", 14.0)),
        one("underarm", 18.0),
        ("neck", "neck", of(25.0).with("width", 14.0).with("behind", 8.0)),
        one("cap_height", -18.0),
        one("biceps_width", 30.0),
        one("half_cap", -10.0),
        ("sleeve_width", "sleeve_width", of(40.0).with("elbow", 16.0)),
        ("true_up", "true_up", of(30.0).by("what", "waist")),
    ]
}

/// The same need met by two or three schools, and when to use which (common practice, no source).
const SCHOOLS: [(&str, &[&str], &str); 2] = [
    (
        "Narrow shoulder: by pivot or by slash",
        &["narrow_shoulder", "narrow_shoulder_slash"],
        "The pivot swings the whole armhole in and lifts the underarm with it: use it where the frame is narrow, since a \
         narrow frame usually wants the higher underarm too, and where the sleeve must go in unchanged. The slash laps only \
         the corner of the shoulder: use it where chest, back and underarm fit and the seam alone overhangs. Both keep the \
         armhole's length; the pivot lengthens the side seam, the slash leaves it. Beyond a rise of 30 mm neither is the \
         answer: take a smaller size.",
    ),
    (
        "Rounded back: shaped seam, neck dart or shoulder dart",
        &["rounded_back", "rounded_back_neck_dart", "rounded_back_shoulder_dart"],
        "The shaped centre-back seam follows the back best and takes any amount, at the price of a seam; use it for a strongly \
         rounded back and wherever the style has a seam anyway. The neck dart keeps the cloth on the fold, for stripes and \
         large patterns; its fullness lies at the nape, so it suits a back that is round high up. The shoulder dart hides the \
         fullness in a dart that is there already; it takes small amounts only, up to a dart 12 mm wider. All three keep \
         neckline, shoulder and armhole, so collar, front and sleeve are not touched.",
    ),
];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let docs = PathBuf::from(std::env::args().nth(1).ok_or("the folder of the docs is wanted")?);
    let folder = docs.join("alterations");
    std::fs::create_dir_all(&folder)?;
    let blocks = MethodKind::ALL.map(block);
    let [bodice, dress, proportional, skirt] = blocks;
    let (bodice, dress, proportional, skirt) = (bodice?, dress?, proportional?, skirt?);
    for (file, code, amounts) in pictured() {
        let block = match file {
            _ if file.contains("_dress") => &dress,
            _ if file.contains("_proportional") => &proportional,
            _ if file.ends_with("_skirt") => &skirt,
            _ => &bodice,
        };
        let mut recipe = Recipe::default();
        if code == "off_shoulder_band" {
            recipe = recipe.and("strapless_edge", Amounts::of(130.0), "");
        }
        if code == "elbow_dart" {
            let close = Amounts::of(585.0).with("opening", 190.0).by("opens", "slit");
            recipe = recipe.and("sleeve_shape", close, "");
        }
        let mut amounts = amounts;
        if file == "princess_line_own" {
            // Drawn through a point of her own, a little inside where it runs by itself.
            let by_itself = recipe.clone().and(code, amounts.clone(), "");
            let point = preview(block, &by_itself, None, STYLE).point.ok_or("no point")?;
            amounts = amounts.with("through_out", point.out - 12.0).with("through_down", point.down);
        }
        let recipe = recipe.and(code, amounts, "");
        let shown = preview(block, &recipe, None, STYLE);
        if let Some(says) = shown.steps.iter().find_map(|step| step.says.clone()) {
            return Err(format!("{file}: {says}").into());
        }
        std::fs::write(folder.join(format!("{file}.svg")), picture(&shown))?;
    }
    std::fs::write(docs.join("alterations.md"), page()?)?;
    Ok(())
}

/// Front, back and sleeve of the handbook's body, its waist dart shared with the side.
fn block(kind: MethodKind) -> Result<Pattern, Box<dyn std::error::Error>> {
    let body = worked_body()
        .with("upper_arm_girth", 284.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("hip_girth", 990.0)
        .with("waist_to_hip", 205.0);
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    Ok(draft(&body, &method, STYLE).map_err(|error| error.to_string())?.pattern)
}

/// Before dashed, now in ink, what moved tinted: the pieces that changed, side by side.
fn picture(shown: &Preview) -> String {
    let changed = |piece: &&PieceDrawing| {
        let old = shown.before.iter().find(|old| old.kind == piece.kind);
        old.is_none_or(|old| old.outline != piece.outline || old.darts != piece.darts)
    };
    let pieces: Vec<&PieceDrawing> = shown.now.iter().filter(changed).collect();
    let (mut drawn, mut right, mut low) = (String::new(), ROOM, 0.0_f64);
    for piece in pieces {
        let old = shown.before.iter().find(|old| old.kind == piece.kind);
        let b = &piece.bounds;
        let before = old.map_or(b, |old| &old.bounds);
        let (left, top) = (b.x.min(before.x), b.y.min(before.y));
        let width = (b.x + b.width).max(before.x + before.width) - left;
        let height = (b.y + b.height).max(before.y + before.height) - top;
        low = low.max(height);
        let _ = writeln!(drawn, "<g transform=\"translate({:.1} {:.1})\">", right - left, ROOM - top);
        draw(&mut drawn, shown, piece, old);
        drawn.push_str("</g>\n");
        right += width + ROOM * 1.5;
    }
    let (width, height) = (right, low + 2.0 * ROOM);
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width:.0} {height:.0}\" width=\"{width:.0}\" \
         height=\"{height:.0}\">\n<style>path{{fill:none;stroke:#20352c;stroke-width:1.4}}.paper{{fill:#f7f2e6;stroke:none}}\
         .piece{{fill:#efe7d4}}.before{{stroke:#6d7a72;stroke-width:1;stroke-dasharray:5 4}}\
         .moved{{fill:#8fb0c9;fill-opacity:.4;stroke:#2f5f86;stroke-width:.8}}.dart{{stroke-width:.9}}\
         .thin{{stroke-width:.6;stroke-dasharray:2 3}}text{{font:11px serif;fill:#20352c}}</style>\n\
         <rect class=\"paper\" width=\"100%\" height=\"100%\" fill=\"#f7f2e6\"/>\n{drawn}</svg>\n"
    )
}

fn draw(out: &mut String, shown: &Preview, piece: &PieceDrawing, old: Option<&PieceDrawing>) {
    let mut path = |class: &str, d: &str| {
        let _ = writeln!(out, "<path class=\"{class}\" d=\"{d}\"/>");
    };
    path("piece", &piece.outline);
    for area in shown.moved.iter().filter(|area| area.piece == piece.kind) {
        path("moved", &area.path);
    }
    if let Some(old) = old {
        path("before", &old.outline);
        old.darts.iter().for_each(|dart| path("before", &dart.legs));
    }
    path("", &piece.outline);
    for dart in &piece.darts {
        path("dart", &dart.legs);
        path("thin", &dart.fold);
    }
    piece.levels.iter().for_each(|level| path("thin", &level.path));
    piece.notches.iter().for_each(|notch| path("", notch));
    path("thin", &piece.grain);
    // Letters are about half as wide as high.
    let wide = piece.name.len().max(piece.cut.len()) as f64 * 5.5;
    let (at, size) = (piece.label_at, (piece.label_room / wide).clamp(0.5, 1.0));
    for (words, down) in [(&piece.name, 0.0), (&piece.cut, 12.0)] {
        let _ = writeln!(
            out,
            "<text transform=\"translate({:.0} {:.0}) scale({size:.2})\" y=\"{down}\">{words}</text>",
            at.x, at.y
        );
    }
}

fn page() -> Result<String, std::fmt::Error> {
    let mut page = String::from(
        "# The alterations\n\nWhat each one is for, what it keeps and what it changes, drawn on the handbook's invented body: \
         before dashed, now in ink, what moved tinted. This page and its pictures are written by `cargo xtask shots` from the \
         same registry the screens are built from.\n\n",
    );
    page.push_str("## One need, several schools\n\n");
    for (title, files, words) in SCHOOLS {
        writeln!(page, "### {title}\n\n{words}\n")?;
        let pictures: Vec<String> = files.iter().map(|file| image(file)).collect();
        writeln!(page, "{}\n", pictures.join("\n"))?;
    }
    page.push_str(
        "## Every alteration on every block\n\nWhat each promises to keep and to grow holds, no check turns red that was green, \
         and no amount is refused: measured at a usual amount on bodies of a bust of 76 to 140 cm. A number leads to the \
         reason below the table.\n\n",
    );
    writeln!(page, "{}", cells::table())?;
    page.push_str("## All of them\n\n");
    for known in registry() {
        writeln!(page, "### {}\n\n{}\n", known.name(), known.why())?;
        writeln!(page, "{}\n", limits(*known))?;
        for (file, _, amounts) in pictured().into_iter().filter(|(_, code, _)| *code == known.code()) {
            writeln!(page, "{}\n\n{}\n", said(known.code(), &amounts), image(file))?;
        }
    }
    Ok(page)
}

fn image(file: &str) -> String {
    format!("![{}](alterations/{file}.svg)", file.replace('_', " "))
}

fn said(code: &str, amounts: &Amounts) -> String {
    let Some(known) = alteration(code) else { return String::new() };
    let views = amount_views(known, amounts, STYLE).into_iter();
    let told: Vec<String> = views
        .map(|view| format!("{} in {}", view.amount.text, view.on))
        .chain(choices(known, amounts, STYLE))
        .collect();
    format!("Drawn: {}.", told.join("; "))
}

/// What it keeps, with what truing may cost, and how far it goes.
fn limits(known: &dyn Alteration) -> String {
    let nothing = Amounts::default();
    let args = Args::new(known.params(), &nothing);
    let kept: Vec<String> = known
        .keeps(&args)
        .iter()
        .map(|(figure, cost)| match cost {
            0.0 => figure.name().to_owned(),
            mm => format!("{} (truing may cost {mm} mm)", figure.name()),
        })
        .collect();
    let first = known.params()[0];
    let range = match first.on {
        yardwand_core::alter::MeasuredOn::Share => {
            format!("{:.0} to {:.0} %", first.low * 100.0, first.high * 100.0)
        }
        _ => format!("{:.0} to {:.0} mm", first.low, first.high),
    };
    format!("{}: {range}. {} Stays: {}.", first.name, first.why, kept.join(", "))
}
