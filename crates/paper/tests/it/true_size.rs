//! True size, read back by libraries that did not write the files: lopdf for the PDF, svgtypes and
//! lyon_geom for the SVG.

use crate::common::worked_body;
use kurbo::{ParamCurve, ParamCurveNearest};
use lopdf::content::Content;
use lopdf::{Document, Object};
use lyon_geom::{CubicBezierSegment, point};
use svgtypes::{PathParser, PathSegment};
use yardwand_core::alter::AlteredFor;
use yardwand_core::draft::{Direct, draft_direct};
use yardwand_core::pattern::{Allowances, Pattern, Seam};
use yardwand_core::{INCH, Style};
use yardwand_paper::{
    Label, PageMap, Paper, card_pdf, lay_out, lay_out_card, small_svg, tiled_pdf, true_size_svg,
};

fn pattern() -> Pattern {
    let body = worked_body().with("upper_bust_girth", 35.0 * INCH);
    draft_direct(&body, &Direct::default(), Style::EIGHTHS).unwrap().pattern
}

fn label() -> Label {
    Label {
        client: "Ada \u{141}ucja <Test> & Co".into(),
        garment: "Concert dress".into(),
        block: "House master, size 12".into(),
        version: 3,
        date: "2 May 2026".into(),
        allowance: "Allowance 1/2 in, 3/8 in at neck and armhole.".into(),
        altered_for: pattern()
            .pieces
            .iter()
            .map(|piece| AlteredFor {
                piece: piece.kind,
                names: vec!["full bust".into(), "shoulder length".into(), "sway back".into()],
            })
            .collect(),
    }
}

/// Closed or open straight figures of a page in points, transformed as the page says.
fn straight_figures(document: &Document, page: lopdf::ObjectId) -> Vec<Vec<(f64, f64)>> {
    let number = |o: &Object| o.as_float().map(f64::from).or_else(|_| o.as_i64().map(|i| i as f64)).unwrap();
    let content = Content::decode(&document.get_page_content(page)).unwrap();
    let mut ctm = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];
    let mut saved = Vec::new();
    let mut figures: Vec<Vec<(f64, f64)>> = Vec::new();
    for op in content.operations {
        let n: Vec<f64> =
            op.operands.iter().filter(|o| o.as_float().is_ok() || o.as_i64().is_ok()).map(number).collect();
        let at = |m: &[f64; 6], x: f64, y: f64| (m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]);
        match op.operator.as_str() {
            "q" => saved.push(ctm),
            "Q" => ctm = saved.pop().unwrap(),
            "cm" => {
                let m = ctm;
                ctm = [
                    n[0] * m[0] + n[1] * m[2],
                    n[0] * m[1] + n[1] * m[3],
                    n[2] * m[0] + n[3] * m[2],
                    n[2] * m[1] + n[3] * m[3],
                    n[4] * m[0] + n[5] * m[2] + m[4],
                    n[4] * m[1] + n[5] * m[3] + m[5],
                ];
            }
            "m" => figures.push(vec![at(&ctm, n[0], n[1])]),
            "l" => figures.last_mut().unwrap().push(at(&ctm, n[0], n[1])),
            "re" => {
                let (x, y, w, h) = (n[0], n[1], n[2], n[3]);
                figures.push(
                    [(x, y), (x + w, y), (x + w, y + h), (x, y + h)].map(|(x, y)| at(&ctm, x, y)).to_vec(),
                );
            }
            _ => {}
        }
    }
    figures
}

/// Sides of the squares on a page, in millimetres.
fn squares(figures: &[Vec<(f64, f64)>]) -> Vec<f64> {
    figures
        .iter()
        .filter(|f| f.len() >= 4)
        .filter_map(|f| {
            let xs = f.iter().map(|p| p.0);
            let ys = f.iter().map(|p| p.1);
            let span = |i: &mut dyn Iterator<Item = f64>| {
                let (low, high) = i.fold((f64::MAX, f64::MIN), |(a, b), v| (a.min(v), b.max(v)));
                (high - low) / 72.0 * INCH
            };
            let (w, h) = (span(&mut xs.clone()), span(&mut ys.clone()));
            ((w - h).abs() < 0.01).then_some(w)
        })
        .collect()
}

#[test]
fn the_test_squares_of_the_pdf_are_100_mm_and_4_in() {
    for paper in [Paper::A4, Paper::Letter] {
        let bytes = tiled_pdf(&pattern(), &Allowances::default(), &label(), paper).unwrap();
        let document = Document::load_mem(&bytes).unwrap();
        let pages: Vec<_> = document.get_pages().into_values().collect();
        let found = squares(&straight_figures(&document, pages[0]));
        for side in [100.0, 101.6] {
            assert!(found.iter().any(|s| (s - side).abs() < 0.01), "{side} mm not among {found:?}");
        }
    }
}

#[test]
fn the_pages_have_the_paper_s_size_and_the_pattern_fills_them() {
    for (paper, width, height) in [(Paper::A4, 595.2756, 841.8898), (Paper::Letter, 612.0, 792.0)] {
        let bytes = tiled_pdf(&pattern(), &Allowances::default(), &label(), paper).unwrap();
        let document = Document::load_mem(&bytes).unwrap();
        let pages = document.get_pages();
        assert!((5..=16).contains(&pages.len()), "{} pages", pages.len());
        for page in pages.into_values() {
            let dictionary = document.get_dictionary(page).unwrap();
            let media = dictionary.get(b"MediaBox").unwrap().as_array().unwrap();
            let number = |i: usize| {
                media[i].as_float().map(f64::from).or_else(|_| media[i].as_i64().map(|v| v as f64)).unwrap()
            };
            assert!((number(2) - width).abs() < 0.01 && (number(3) - height).abs() < 0.01, "{media:?}");
        }
    }
}

#[test]
fn the_map_has_the_pages_that_are_printed_and_every_line_lies_on_one() {
    for paper in [Paper::A4, Paper::Letter] {
        for allowances in [Allowances::NONE, Allowances::default()] {
            let map = PageMap::of(&pattern(), &allowances, paper);
            let bytes = tiled_pdf(&pattern(), &allowances, &label(), paper).unwrap();
            let document = Document::load_mem(&bytes).unwrap();
            assert_eq!(document.get_pages().len(), map.pages.len() + 1, "one more, with the map on it");
            for (page, at) in map.pages.iter().zip(2..) {
                let words = document.extract_text(&[at]).unwrap();
                assert!(words.split_whitespace().any(|word| word == page.name), "{} on {words}", page.name);
            }
            let (width, height) = map.size();
            for piece in &map.pieces {
                for (x, y) in sampled(&piece.cutting.to_svg()) {
                    assert!((0.0..=width).contains(&x) && (0.0..=height).contains(&y));
                    assert!(
                        map.pages.iter().any(|page| page.covers.contains((x, y))),
                        "{} at {x:.1}, {y:.1} is on no page",
                        piece.name
                    );
                }
            }
        }
    }
}

#[test]
fn a_small_drawing_has_every_piece_with_its_darts() {
    let svg = small_svg(&pattern());
    let paths: Vec<&str> = svg.split("<path").skip(1).collect();
    let count = |class: &str| paths.iter().filter(|path| attribute(path, "class") == Some(class)).count();
    assert_eq!(count("net"), pattern().pieces.len());
    assert_eq!(count("dart"), pattern().pieces.iter().map(|piece| piece.darts.len()).sum::<usize>());
    let view: Vec<f64> =
        attribute(&svg, "viewBox").unwrap().split(' ').map(|number| number.parse().unwrap()).collect();
    for path in paths {
        for (x, y) in sampled(attribute(path, "d").unwrap()) {
            assert!((0.0..=view[2]).contains(&x) && (0.0..=view[3]).contains(&y), "{x}, {y} is cut off");
        }
    }
}

#[test]
fn the_pdf_says_whose_pattern_it_is() {
    let bytes = tiled_pdf(&pattern(), &Allowances::default(), &label(), Paper::A4).unwrap();
    let document = Document::load_mem(&bytes).unwrap();
    let words: String = (1..=document.get_pages().len() as u32)
        .map(|page| document.extract_text(&[page]).unwrap())
        .collect::<String>()
        .replace('\n', " ");
    for expected in [
        "Bodice front",
        "Bodice back",
        "cut 1 on fold",
        "version 3",
        "2 May 2026",
        "\u{141}ucja",
        "grain",
        "100 mm",
        "4 in",
    ] {
        assert!(words.contains(expected), "{expected:?} is missing in {words}");
    }
}

/// The segments of SVG path data, read by another library than the one that wrote it.
fn segments(data: &str) -> Vec<CubicBezierSegment<f64>> {
    let (mut at, mut first) = (point(0.0, 0.0), point(0.0, 0.0));
    let mut found = Vec::new();
    for segment in PathParser::from(data) {
        let (ctrl1, ctrl2, to) = match segment.unwrap() {
            PathSegment::MoveTo { x, y, .. } => {
                (at, first) = (point(x, y), point(x, y));
                continue;
            }
            PathSegment::LineTo { x, y, .. } => (at, point(x, y), point(x, y)),
            PathSegment::CurveTo { x1, y1, x2, y2, x, y, .. } => (point(x1, y1), point(x2, y2), point(x, y)),
            PathSegment::HorizontalLineTo { x, .. } => (at, point(x, at.y), point(x, at.y)),
            PathSegment::VerticalLineTo { y, .. } => (at, point(at.x, y), point(at.x, y)),
            PathSegment::ClosePath { .. } => (at, first, first),
            other => panic!("not written by us: {other:?}"),
        };
        found.push(CubicBezierSegment { from: at, ctrl1, ctrl2, to });
        at = to;
    }
    found
}

fn svg_length(data: &str) -> f64 {
    segments(data).iter().map(|segment| segment.approximate_length(1e-6)).sum()
}

/// Points all along a path, near enough to each other that nothing leaves a page between two of them unseen.
fn sampled(data: &str) -> Vec<(f64, f64)> {
    let of = |segment: CubicBezierSegment<f64>| (0..=200).map(move |i| segment.sample(f64::from(i) / 200.0));
    segments(data).into_iter().flat_map(of).map(|at| (at.x, at.y)).collect()
}

fn attribute<'a>(element: &'a str, name: &str) -> Option<&'a str> {
    let begin = element.find(&format!(" {name}=\""))? + name.len() + 3;
    Some(&element[begin..begin + element[begin..].find('"')?])
}

#[test]
fn seams_of_the_svg_measure_what_the_core_says() {
    let pattern = pattern();
    let svg = true_size_svg(&pattern, &Allowances::default(), &label());
    for piece in &pattern.pieces {
        let id = piece.kind.name().to_lowercase().replace(' ', "-");
        let group = svg.split("<g ").find(|g| g.starts_with(&format!("id=\"{id}\""))).unwrap();
        for seam in [Seam::Neckline, Seam::Shoulder, Seam::Armhole, Seam::Side, Seam::Waist] {
            let drawn: f64 = group
                .split('<')
                .filter(|e| attribute(e, "data-seam") == Some(seam.name()))
                .map(|e| svg_length(attribute(e, "d").unwrap()))
                .sum();
            let said = piece.sewn_length(seam);
            assert!((drawn - said).abs() < 0.05, "{id} {}: {drawn} for {said}", seam.name());
        }
    }
}

#[test]
fn one_unit_of_the_svg_is_one_millimetre() {
    let svg = true_size_svg(&pattern(), &Allowances::default(), &label());
    let mm = |name| attribute(&svg, name).unwrap().trim_end_matches("mm").parse::<f64>().unwrap();
    let view: Vec<f64> = attribute(&svg, "viewBox").unwrap().split(' ').map(|n| n.parse().unwrap()).collect();
    assert_eq!((mm("width"), mm("height")), (view[2], view[3]));
    assert!(svg.contains("id=\"square-100-mm\"") && svg.contains("width=\"101.6\" height=\"101.6\""));
    assert!(svg.contains("&lt;Test&gt; &amp; Co"), "a name with signs in it stays a name");
}

/// The cutting line keeps its distance from the net line: at least the allowance, within 0.05.
#[test]
fn the_cutting_line_keeps_its_distance() {
    use kurbo::{ParamCurveNearest, PathEl, Shape};
    let out = 12.7;
    let all = Allowances {
        side: out,
        shoulder: out,
        waist: out,
        neckline: out,
        armhole: out,
        centre: out,
        hem: out,
    };
    let (pieces, _) = lay_out(&pattern(), &all);
    for piece in pieces {
        let net: Vec<_> = piece.net.segments().collect();
        let fold_x = piece.net.bounding_box().x0;
        for el in piece.cutting.elements() {
            let (PathEl::MoveTo(p) | PathEl::LineTo(p)) = el else { continue };
            let near =
                net.iter().map(|seg| seg.nearest(*p, 1e-9).distance_sq).fold(f64::MAX, f64::min).sqrt();
            let on_fold = (p.x - fold_x).abs() < 0.5;
            assert!(on_fold || near > out - 0.05, "{} {p:?}: {near}", piece.name);
            assert!(near < out * 3.2, "{} {p:?}: {near}", piece.name);
        }
        assert!(piece.cutting.area().abs() > piece.net.area().abs());
    }
}

/// Snipping where a notch is drawn must not cut the garment, and a dart is marked to the edge that is cut.
#[test]
fn notches_and_dart_legs_reach_the_cutting_line() {
    use kurbo::{BezPath, ParamCurveNearest, Point};
    let off = |point: Point, line: &BezPath| {
        let near = line.segments().map(|seg| seg.nearest(point, 1e-9).distance_sq);
        near.fold(f64::MAX, f64::min).sqrt()
    };
    let ends = |line: &BezPath| -> Vec<Point> {
        line.elements().iter().filter_map(kurbo::PathEl::end_point).collect()
    };
    let mut seen = (0, 0);
    for allowances in [Allowances::default(), Allowances { side: 40.0, waist: 5.0, ..Allowances::default() }]
    {
        for piece in lay_out(&pattern(), &allowances).0 {
            for notch in &piece.notches {
                let [edge, inside] = ends(notch)[..] else { panic!("{notch:?}") };
                assert!(off(edge, &piece.cutting) < 0.01, "{} {edge:?}", piece.name);
                assert!(off(inside, &piece.net) > 0.9, "{} {inside:?} cuts the garment", piece.name);
                seen.0 += 1;
            }
            for dart in piece.darts.iter().filter(|dart| ends(dart).len() == 3) {
                for end in [ends(dart)[0], ends(dart)[2]] {
                    assert!(off(end, &piece.cutting) < 0.01, "{} {end:?}", piece.name);
                }
                seen.1 += 1;
            }
            assert!(
                piece
                    .folds
                    .iter()
                    .filter(|fold| ends(fold).len() == 2)
                    .all(|fold| { off(ends(fold)[0], &piece.cutting) < 0.01 })
            );
        }
    }
    assert!(seen.0 >= 4 && seen.1 >= 4, "{seen:?}");
}

#[test]
fn a_card_is_net_with_holes_at_pivots_and_points_and_both_grains() {
    let pattern = pattern();
    let (laid, _) = lay_out_card(&pattern);
    for (laid, piece) in laid.iter().zip(&pattern.pieces) {
        // No allowance: the cutting line is the net line all along, as far as a path in hundredths of a millimetre can say.
        for net in laid.net.segments() {
            for step in 0..=10 {
                let at = net.eval(f64::from(step) / 10.0);
                let off = laid.cutting.segments().map(|cut| cut.nearest(at, 1e-6).distance_sq);
                let off = off.min_by(f64::total_cmp).unwrap().sqrt();
                assert!(off < 0.02, "{}: {off} mm at {at:?}", laid.name);
            }
        }
        // A dart of the bodice has its point and its pivot; where both darts of a front meet they share one.
        let wanted = piece.darts.iter().filter(|dart| dart.point.distance(dart.pivot) > 1.0).count();
        assert!(laid.punches.len() > wanted, "{}: {:?}", laid.name, laid.punches);
        let along = |path: &kurbo::BezPath| {
            let ends: Vec<_> = path.elements().iter().filter_map(kurbo::PathEl::end_point).collect();
            *ends.last().unwrap() - ends[0]
        };
        let cross = laid.cross_grain.as_ref().expect("a card has both grains");
        assert!(along(&laid.grain).dot(along(cross)).abs() < 1e-6);
    }
    let pdf = card_pdf(&pattern, &label(), Paper::A4).unwrap();
    assert_eq!(&pdf[..5], b"%PDF-");
}
