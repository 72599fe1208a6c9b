//! SVG: width and height in millimetres, one user unit is one millimetre, one group a piece.

use std::fmt::Write;

use kurbo::BezPath;
use yardwand_core::pattern::{Allowances, Pattern};

use super::label_place::{Letters, written};
use super::{Label, Laid, lay_out};

/// Room round the drawing, in millimetres.
const MARGIN: f64 = 10.0;
/// The test squares stand below the pieces, in millimetres.
const SQUARES: f64 = 101.6;

const STYLE: &str = "path{fill:none;stroke:#16302b;stroke-width:.35}.cutting{stroke-width:.6}\
    .net{stroke-dasharray:4 1.5}.fold,.level{stroke-width:.2;stroke-dasharray:1 2}\
    .seam{stroke:none}.onfold{stroke-dasharray:.5 3;stroke-width:1.4}text{font:5px sans-serif;fill:#16302b}.name{font-weight:bold}";

const LETTERS: Letters = Letters { name: 8.0, others: 5.0, line: 7.0 };

/// The lines of a small drawing keep their width on the screen.
const SMALL_STYLE: &str = "path{fill:none;stroke:#16302b;stroke-width:1.2;vector-effect:non-scaling-stroke}.net{fill:#fffdf8}.dart{stroke-width:.8}";

/// The pattern true to size, labelled, with a 100 mm and a 4 in test square.
///
/// Ids are stable: `bodice-front`, `bodice-front-cutting`, `bodice-front-net`. Every seam is a path of
/// its own with class `seam`, so that another program can measure it.
pub fn true_size_svg(pattern: &Pattern, allowances: &Allowances, label: &Label) -> String {
    let (pieces, plane) = lay_out(pattern, allowances);
    let width = plane.width().max(2.0 * SQUARES + 20.0) + 2.0 * MARGIN;
    let height = plane.height() + SQUARES + 3.0 * MARGIN + 6.0;
    let mut out = String::new();
    // Writing to a string cannot fail.
    let _ = write!(
        out,
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width:.3}mm\" height=\"{height:.3}mm\" viewBox=\"{:.3} {:.3} {width:.3} {height:.3}\">\
         <title>{}</title><style>{STYLE}</style>",
        -MARGIN,
        -MARGIN,
        escaped(&format!("{}, {}, version {}", label.client, label.garment, label.version)),
    );
    for piece in &pieces {
        write_piece(&mut out, piece, label);
    }
    let top = plane.height() + MARGIN;
    for (x, side, words) in [(0.0, 100.0, "100 mm"), (SQUARES + 10.0, SQUARES, "4 in")] {
        let id = words.replace(' ', "-");
        let _ = write!(
            out,
            "<rect id=\"square-{id}\" x=\"{x}\" y=\"{top:.3}\" width=\"{side}\" height=\"{side}\" fill=\"none\" stroke=\"#16302b\" stroke-width=\".35\"/>\
             <text x=\"{}\" y=\"{:.3}\">{words}: measure before cutting</text>",
            x + 4.0,
            top + 8.0,
        );
    }
    out.push_str("</svg>\n");
    out
}

/// A small drawing a pattern is recognised by: net lines and darts, as wide as the place it is shown in, lines as thin
/// however small it is.
pub fn small_svg(pattern: &Pattern) -> String {
    let (pieces, plane) = lay_out(pattern, &Allowances::NONE);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {:.1} {:.1}\"><style>{SMALL_STYLE}</style>",
        plane.width(),
        plane.height(),
    );
    for piece in &pieces {
        let lines = std::iter::once(("net", &piece.net)).chain(piece.darts.iter().map(|dart| ("dart", dart)));
        for (class, path) in lines {
            // Writing to a string cannot fail.
            let _ = write!(out, "<path class=\"{class}\" d=\"{}\"/>", path.to_svg());
        }
    }
    out.push_str("</svg>\n");
    out
}

fn write_piece(out: &mut String, piece: &Laid, label: &Label) {
    let id = piece.name.to_lowercase().replace(' ', "-");
    let _ = write!(out, "<g id=\"{id}\" class=\"piece\">");
    let path = |out: &mut String, class: &str, attributes: &str, path: &BezPath| {
        let _ = write!(out, "<path class=\"{class}\"{attributes} d=\"{}\"/>", path.to_svg());
    };
    path(out, "cutting", &format!(" id=\"{id}-cutting\""), &piece.cutting);
    path(out, "net", &format!(" id=\"{id}-net\""), &piece.net);
    for (name, seam) in &piece.seams {
        path(out, "seam", &format!(" data-seam=\"{}\"", escaped(name)), seam);
    }
    piece.darts.iter().for_each(|dart| path(out, "dart", "", dart));
    piece.folds.iter().for_each(|fold| path(out, "fold", "", fold));
    piece.levels.iter().for_each(|(_, level)| path(out, "level", "", level));
    piece.notches.iter().for_each(|notch| path(out, "notch", "", notch));
    path(out, "grain", "", &piece.grain);
    if let Some(edge) = &piece.fold_edge {
        path(out, "onfold", &format!(" id=\"{id}-fold\""), edge);
    }
    for punch in &piece.punches {
        let _ = write!(
            out,
            "<circle class=\"punch\" cx=\"{:.3}\" cy=\"{:.3}\" r=\"1.5\" fill=\"none\" stroke=\"#16302b\" stroke-width=\".35\"/>",
            punch.x, punch.y
        );
    }
    // Which typeface is at hand is not known here: a letter is taken as so wide, as a share of its size.
    const LETTER: f64 = 0.55;
    for line in written(piece, label, LETTERS, |words, _| words.chars().count() as f64 * LETTER) {
        let class = if line.is_name { " class=\"name\"" } else { "" };
        let _ = write!(
            out,
            "<text{class} x=\"{:.3}\" y=\"{:.3}\" style=\"font-size:{:.2}px\">{}</text>",
            line.at.x,
            line.at.y,
            line.size,
            escaped(&line.words)
        );
    }
    out.push_str("</g>");
}

/// Text safe inside an element or a quoted attribute.
fn escaped(text: &str) -> String {
    let mut safe = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => safe.push_str("&amp;"),
            '<' => safe.push_str("&lt;"),
            '>' => safe.push_str("&gt;"),
            '"' => safe.push_str("&quot;"),
            c if c.is_control() => safe.push(' '),
            c => safe.push(c),
        }
    }
    safe
}
