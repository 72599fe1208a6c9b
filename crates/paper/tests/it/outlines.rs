//! Outlines out of a drawing program's file.

use yardwand_paper::outlines_of_svg;

/// A4 upright in millimetres, with its pieces in groups that are moved and turned.
const FILE: &str = r#"<?xml version="1.0"?>
<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">
<svg xmlns="http://www.w3.org/2000/svg" width="210mm" height="297mm" viewBox="0 0 420 594">
  <defs><path id="arrow" d="M0 0H9V9Z"/></defs>
  <g transform="translate(100 50) rotate(90)">
    <path id="front" d="m0 0h200v300c-60 0 -120 -20 -200 0z"/>
    <rect id="square" x="10" y="10" width="20" height="20"/>
  </g>
  <path id="notch" d="M5 5L9 9"/>
  <path id="back" transform="scale(2)" d="M0 0 Q 50 -10 100 0 T 200 0 V 80 H 0 Z M300 0H310V10H300Z"/>
  <path id="arc" d="M0 0A5 5 0 0 1 10 10Z"/>
  <circle id="hole" cx="4" cy="4" r="2"/>
</svg>"#;

#[test]
fn closed_paths_are_found_with_their_transforms_and_the_scale_of_the_file() {
    let found = outlines_of_svg(FILE).unwrap();
    let names: Vec<&str> = found.outlines.iter().map(|outline| outline.name.as_str()).collect();
    assert_eq!(names, ["front", "square", "back", "back"]);
    // 210 mm over 420 units (SVG 1.1, section 7.7).
    assert!((found.mm_per_unit.unwrap() - 0.5).abs() < 1e-12);
    // A quarter turn: (x, y) lies at (100 - y, 50 + x).
    let [left, top, width, height] = found.outlines[1].bounds;
    assert!((left - 70.0).abs() < 1e-9 && (top - 60.0).abs() < 1e-9, "{left} {top}");
    assert!((width - 20.0).abs() < 1e-9 && (height - 20.0).abs() < 1e-9);
    assert!((found.outlines[2].bounds[2] - 400.0).abs() < 1e-9, "the back is twice as large");
    let unread = found.unread.join("; ");
    assert!(
        unread.contains("“arc” has an elliptical arc (A)") && unread.contains("“hole” is a circle"),
        "{unread}"
    );
}

#[test]
fn a_test_square_tells_the_scale_where_its_sides_agree() {
    let found = outlines_of_svg(FILE).unwrap();
    assert!((found.outlines[1].scale_of_square(100.0).unwrap() - 5.0).abs() < 1e-12);
    let squeezed = FILE.replace(r#"width="20" height="20""#, r#"width="20" height="20.2""#);
    let says = outlines_of_svg(&squeezed).unwrap().outlines[1].scale_of_square(100.0).unwrap_err();
    assert!(says.contains("differ by 1.0 %"), "{says}");
}

#[test]
fn a_width_in_pixels_or_two_scales_state_none() {
    let scale = |from: &str, to: &str| outlines_of_svg(&FILE.replace(from, to)).unwrap().mm_per_unit;
    assert_eq!(scale("210mm", "210"), None);
    assert_eq!(scale("210mm", "220mm"), None);
    assert!((scale("210mm", "21cm").unwrap() - 0.5).abs() < 1e-12);
}

#[test]
fn what_is_no_drawing_is_told() {
    let says = |text: &str| outlines_of_svg(text).unwrap_err();
    assert!(says("pins, chalk, muslin").contains("no SVG"));
    assert!(says("<html/>").contains("no SVG"));
    assert!(says("<svg/>").contains("no closed path"));
    assert!(says(r#"<svg><path id="a" d="M0 0A1 1 0 0 0 2 2Z"/></svg>"#).contains("elliptical arc"));
    assert!(says(&"x".repeat(900_000)).contains("longer than"));
    // A file that names itself again and again is not unfolded.
    let bomb = r#"<!DOCTYPE s [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;">
        <!ENTITY d "&c;&c;&c;&c;&c;&c;&c;&c;"><!ENTITY e "&d;&d;&d;&d;&d;&d;&d;&d;">]><svg><path d="&e;&e;&e;&e;"/></svg>"#;
    assert!(outlines_of_svg(bomb).is_err());
}
