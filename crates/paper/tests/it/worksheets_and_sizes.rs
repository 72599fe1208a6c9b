//! Worksheets read back by lopdf (which shares no code with the writer), and size tables from files.

use kurbo::{BezPath, Point};
use yardwand_core::Unit;
use yardwand_paper::tables::read_sizes;
use yardwand_paper::{Column, Item, Mark, Paper, Stroke, Worksheet, worksheet};

fn long_sheet(rows: usize) -> Worksheet {
    let columns = vec![
        Column { name: "What".to_owned(), share: 0.3 },
        Column { name: "Formula".to_owned(), share: 0.5 },
        Column { name: "Figure".to_owned(), share: 0.2 },
    ];
    let row = |n: usize| {
        vec![format!("line {n}"), "neck base girth / 5 − neck width, less".to_owned(), "2 3/4 in".to_owned()]
    };
    let mut square = BezPath::new();
    square.move_to((0.0, 0.0));
    square.line_to((200.0, 0.0));
    square.line_to((200.0, 300.0));
    square.close_path();
    Worksheet {
        title: "Construction".to_owned(),
        under: "Greta Sundqvist, direct method".to_owned(),
        items: Vec::new(),
    }
    .and(Item::Heading("Front".to_owned()))
    .and(Item::Words("Rule the centre front.".to_owned()))
    .and(Item::Drawing {
        strokes: vec![Stroke { path: square, strong: true }],
        marks: vec![Mark { name: "SNP".to_owned(), at: Point::new(70.0, 0.0) }],
        height: 90.0,
    })
    .and(Item::Table { columns, rows: (0..rows).map(row).collect() })
}

#[test]
fn a_worksheet_is_a_pdf_of_the_asked_paper_with_its_words_on_as_many_pages_as_it_needs() {
    for (paper, width, height) in [(Paper::A4, 595.2756, 841.8898), (Paper::Letter, 612.0, 792.0)] {
        let (short, long) =
            (worksheet(&long_sheet(3), paper).unwrap(), worksheet(&long_sheet(120), paper).unwrap());
        let (short, long) =
            (lopdf::Document::load_mem(&short).unwrap(), lopdf::Document::load_mem(&long).unwrap());
        assert_eq!(short.get_pages().len(), 1);
        assert!(long.get_pages().len() >= 3, "{}", long.get_pages().len());
        for id in long.get_pages().values() {
            let page = long.get_dictionary(*id).unwrap();
            let sides: Vec<f32> = page
                .get(b"MediaBox")
                .unwrap()
                .as_array()
                .unwrap()
                .iter()
                .map(|side| side.as_float().unwrap())
                .collect();
            assert!((sides[2] - width).abs() < 0.01 && (sides[3] - height).abs() < 0.01, "{sides:?}");
        }
        let words = short.extract_text(&[1]).unwrap();
        for wanted in ["Construction", "Greta Sundqvist", "Rule the centre front.", "SNP", "line 2", "100 mm"]
        {
            assert!(words.contains(wanted), "{wanted} is not in {words}");
        }
        let pages: Vec<u32> = long.get_pages().keys().copied().collect();
        let all = long.extract_text(&pages).unwrap();
        assert!((0..120).all(|n| all.contains(&format!("line {n}"))), "a row is lost between the pages");
    }
}

const GOOD: &str = "measurement,unit,36,38\r\nBust girth,cm,84,88\r\nwaist_girth,cm,\"66,5\",70\r\nArm length,in,23 1/4,23 1/2\r\n";

#[test]
fn a_good_table_is_read_by_name_or_code_in_its_own_units() {
    let read = read_sizes(GOOD, Unit::Cm).unwrap();
    assert_eq!(read.problems, []);
    let of = |size: usize, code: &str| read.sizes[size].figure.get(code).unwrap();
    assert_eq!(read.sizes.iter().map(|size| size.label.as_str()).collect::<Vec<_>>(), ["36", "38"]);
    assert!((of(0, "bust_girth") - 840.0).abs() < 1e-9);
    assert!((of(0, "waist_girth") - 665.0).abs() < 1e-9);
    assert!((of(1, "arm_length") - 23.5 * 25.4).abs() < 1e-9);
}

#[test]
fn a_table_without_a_unit_column_is_read_in_the_houses_unit() {
    let read = read_sizes("measurement;8;10\nbust_girth;31,5;32,5\nwaist_girth;24;25\n", Unit::Inch).unwrap();
    assert_eq!(read.problems, []);
    assert!((read.sizes[0].figure.get("bust_girth").unwrap() - 31.5 * 25.4).abs() < 1e-9);
}

#[test]
fn every_fault_of_a_broken_table_has_its_line_and_its_sentence_and_nothing_is_taken() {
    let broken = "measurement,unit,36,38,38\nBust girth,cm,88,84,92\nWaist girth,ells,66,70,74\nElbow room,cm,1,2,3\n\
                  Hip girth,cm,94,,102\nArm length,cm,584,590,600\nHip girth,cm,94,98,102\n";
    let read = read_sizes(broken, Unit::Cm).unwrap();
    assert!(read.sizes.is_empty());
    let said: Vec<(usize, &str)> =
        read.problems.iter().map(|problem| (problem.line, problem.says.as_str())).collect();
    for (line, words) in [
        (1, "size 38 stands twice"),
        (1, "no line for"),
        (2, "no larger at the bust"),
        (3, "“ells” is no unit"),
        (4, "no measurement is called “Elbow room”"),
        (5, "is missing for size 38"),
        (6, "check the unit"),
        (7, "stands twice"),
    ] {
        let found = said.iter().any(|(at, says)| *at == line && says.contains(words));
        assert!(found, "line {line}: {words} is not in {said:#?}");
    }
    assert!(read_sizes("", Unit::Cm).is_err());
    let no_bust = read_sizes("measurement,unit,36\nWaist girth,cm,66\n", Unit::Cm).unwrap();
    assert!(no_bust.problems[0].says.contains("no line for bust girth"), "{:?}", no_bust.problems);
}
