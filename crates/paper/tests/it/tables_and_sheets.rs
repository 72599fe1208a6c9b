//! Readings in and out of files, and the measuring sheet: CSV against RFC 4180 and the `csv` crate as the reader, the
//! sheet read back by lopdf.

use std::collections::BTreeMap;

use chrono::NaiveDate;
use lopdf::Document;
use proptest::prelude::*;
use yardwand_core::body::{Side, catalogue};
use yardwand_core::{Length, Unit};
use yardwand_paper::tables::{
    Column, Mapping, ReadingIn, ReadingOut, Table, TableError, interpret, without_twins, write_csv,
    write_json,
};
use yardwand_paper::{Paper, Sheet, SheetRow, SheetSide, measuring_sheet};

fn day(text: &str) -> NaiveDate {
    text.parse().unwrap()
}

fn today() -> NaiveDate {
    day("2026-11-23")
}

fn reading(client: &str, code: &str, value: &str) -> ReadingOut {
    ReadingOut {
        client: client.into(),
        taken_on: day("2026-03-04"),
        measurement: code.into(),
        side: Side::Both,
        value: value.into(),
        unit: Unit::Inch,
        mm: Length::read(value, Unit::Inch).unwrap().length.mm(),
        method: String::new(),
        schools: String::new(),
        ease_mm: 0.0,
        measured_by: "M".into(),
        note: String::new(),
        stands: String::new(),
    }
}

fn read(text: &str) -> (Vec<ReadingIn>, Vec<String>) {
    let table = Table::read(text).unwrap();
    let mapping = Mapping::guess(&table, Unit::Inch);
    assert_eq!(mapping.lacks(false), None, "{mapping:?}");
    let (readings, problems) = interpret(&table, &mapping, None, today());
    (readings, problems.into_iter().map(|p| format!("{}: {}", p.line, p.says)).collect())
}

/// RFC 4180: CRLF, fields with comma, quote or line break quoted, a quote doubled.
#[test]
fn csv_is_written_as_rfc_4180_says_and_read_by_another_reader() {
    let mut odd = reading("Ada \"the\" Great, of\nÅbo", "bust_girth", "37 3/8");
    odd.note = "=SUM(A1)".into();
    let text = write_csv(&[odd]);
    assert!(text.starts_with("client,taken_on,measurement,side,value,unit,mm,"));
    assert!(text.ends_with("\r\n"));
    assert!(text.contains("\"Ada \"\"the\"\" Great, of\nÅbo\""), "{text}");
    let mut reader = csv::Reader::from_reader(text.as_bytes());
    let row = reader.records().next().unwrap().unwrap();
    assert_eq!(&row[0], "Ada \"the\" Great, of\nÅbo");
    assert_eq!(&row[6], "949.325");
    assert_eq!(&row[11], "'=SUM(A1)", "a spreadsheet must not run it");
}

#[test]
fn what_is_written_comes_back_by_csv_and_by_json() {
    let mut rows = [reading("Ada", "bust_girth", "37 3/8"), reading("Bea", "waist_girth", "29+")];
    rows[1].stands = "MH".into();
    for text in [write_csv(&rows), write_json(&rows)] {
        let (back, problems) = read(&text);
        assert!(problems.is_empty(), "{problems:?}");
        let figures: Vec<_> =
            back.iter().map(|r| (r.client.as_str(), r.code.as_str(), r.entered.length.mm())).collect();
        let stands: Vec<_> = back.iter().map(|r| r.stands.as_deref()).collect();
        assert_eq!(stands, [None, Some("MH")], "the initials of what stands go along");
        assert_eq!(figures, [("Ada", "bust_girth", rows[0].mm), ("Bea", "waist_girth", rows[1].mm)]);
        assert!(back.iter().all(|r| r.taken_on == day("2026-03-04") && r.entered.unit == Unit::Inch));
    }
}

#[test]
fn a_whole_session_on_a_line_is_read_by_names_codes_and_standard_terms() {
    let (readings, problems) = read(
        "\u{feff}Name;Date;Bust;waist_girth;back waist length;Shoes\r\n\"Ada\";4.3.2026;94,5;72;;38\r\n",
    );
    assert!(problems.is_empty(), "{problems:?}");
    let codes: Vec<_> = readings.iter().map(|r| (r.code.as_str(), r.entered.length.mm())).collect();
    // No unit anywhere: only centimetres are plausible.
    assert_eq!(codes, [("bust_girth", 945.0), ("waist_girth", 720.0)]);
    assert_eq!(readings[0].taken_on, day("2026-03-04"));
}

#[test]
fn each_bad_line_says_what_is_wrong_and_the_good_ones_are_read() {
    let (readings, problems) = read(
        "client,taken_on,measurement,side,value,unit\r\n\
         Ada,2026-03-04,bust_girth,both,37 3/8,in\r\n\
         Ada,2026-03-04,bust_grith,both,37,in\r\n\
         Ada,2026-13-04,bust_girth,both,37,in\r\n\
         Ada,2027-03-04,bust_girth,both,37,in\r\n\
         Ada,2026-03-04,bust_girth,left,37,in\r\n\
         Ada,2026-03-04,shoulder_length,left,5,ell\r\n\
         Ada,2026-03-04,shoulder_length,left,5 1/7,in\r\n\
         ,2026-03-04,bust_girth,both,37,in\r\n\
         Ada,2026-03-04,bust_girth,both,,in\r\n\
         Ada,2026-03-04,bust_girth,both,37,in,extra,fields\r\n\
         \r\n\
         Bea,2026-03-04,shoulder_length,R,5 1/8,in\r\n",
    );
    assert_eq!(readings.len(), 2);
    assert_eq!((readings[1].line, readings[1].side), (13, Side::Right));
    let expected = [
        "3: no measurement is called \u{201c}bust_grith\u{201d}",
        "4: \u{201c}2026-13-04\u{201d} is no day",
        "5: 2027-03-04 lies in the future",
        "6: this measurement has no left and right",
        "7: \u{201c}ell\u{201d} is no unit",
        "8: \u{201c}5 1/7\u{201d}: a tape has no 1/7",
        "9: there is no client's name",
        "10: there is no value",
        "11: 8 fields under 6 headings",
    ];
    assert_eq!(problems.len(), expected.len(), "{problems:#?}");
    for (problem, start) in problems.iter().zip(expected) {
        assert!(problem.starts_with(start), "{problem} should begin {start}");
    }
}

#[test]
fn twins_are_found_in_the_file_and_in_the_book() {
    let text = "client,measurement,value,date\nAda,bust,37 in,2026-03-04\nada,bust,37 in,2026-03-04\nAda,waist,29 in,2026-03-04\n";
    let (readings, _) = read(text);
    let book =
        [("Ada".to_owned(), vec![(day("2026-03-04"), "waist_girth".to_owned(), Side::Both, 736.6)])].into();
    let (fresh, twins) = without_twins(readings, &book);
    assert_eq!(fresh.len(), 1);
    let said: Vec<_> = twins.iter().map(|twin| twin.says.as_str()).collect();
    assert_eq!(said, ["the same reading stands on line 2", "the book has this reading already"]);
}

#[test]
fn what_is_no_table_is_refused_in_a_sentence() {
    assert_eq!(Table::read("  \n"), Err(TableError::Empty));
    assert!(matches!(Table::read("{\"a\": 1}"), Err(TableError::Json(_))));
    assert!(matches!(Table::read("[1, 2"), Err(TableError::Json(_))));
    assert_eq!(Table::read("{\"version\": 2, \"readings\": []}"), Err(TableError::Version(2)));
    let table = Table::read("when,how much\n1,2\n").unwrap();
    let mapping = Mapping::guess(&table, Unit::Cm);
    assert_eq!(mapping.columns, [Column::Ignore, Column::Ignore]);
    assert!(mapping.lacks(false).unwrap().contains("client"));
    assert!(mapping.lacks(true).unwrap().contains("measurement"));
}

#[test]
fn the_order_of_day_and_month_is_a_choice() {
    let table = Table::read("client,date,bust\nAda,3/4/2026,94\n").unwrap();
    let mapping = Mapping::guess(&table, Unit::Cm);
    let on = |mapping: &Mapping| interpret(&table, mapping, None, today()).0[0].taken_on;
    assert_eq!(on(&mapping), day("2026-04-03"));
    assert_eq!(on(&Mapping { day_first: false, ..mapping }), day("2026-03-04"));
}

proptest! {
    #[test]
    fn no_file_panics(text in "[a-z,;\"\r\n 0-9{}\\[\\]:/.-]{0,120}") {
        if let Ok(table) = Table::read(&text) {
            let mapping = Mapping::guess(&table, Unit::Cm);
            let (readings, problems) = interpret(&table, &mapping, Some("Ada"), today());
            let _ = without_twins(readings, &BTreeMap::new());
            prop_assert!(problems.len() <= table.rows.len() + table.broken.len());
        }
    }
}

fn sheet() -> Sheet {
    let row = |row: &yardwand_core::body::Measurement| SheetRow {
        name: row.name.clone(),
        how: row.how.clone(),
        sides: vec![SheetSide {
            name: String::new(),
            last: "37 3/8".into(),
            takes: ["37 1/2", "37 5/8", "37 3/4", "37 7/8"].map(str::to_owned).to_vec(),
        }],
        note: "stands (MH)".into(),
        drawing: None,
    };
    Sheet {
        client: "Ada \u{141}ucja".into(),
        set: "Everything".into(),
        unit: "inches".into(),
        signed: "4 March 2026, measured by M".into(),
        rows: catalogue().iter().map(row).collect(),
    }
}

/// A4 and Letter, sizes of check values section 8.
#[test]
fn the_sheet_holds_every_row_on_pages_of_the_right_size() {
    for (paper, width, height) in [(Paper::A4, 595.2756, 841.8898), (Paper::Letter, 612.0, 792.0)] {
        let document = Document::load_mem(&measuring_sheet(&sheet(), paper).unwrap()).unwrap();
        let pages = document.get_pages();
        assert!((3..=5).contains(&pages.len()), "{} pages", pages.len());
        for page in pages.values() {
            let bounds =
                document.get_dictionary(*page).unwrap().get(b"MediaBox").unwrap().as_array().unwrap();
            let size: Vec<f32> = bounds.iter().map(|n| n.as_float().unwrap()).collect();
            assert!(
                (f64::from(size[2]) - width).abs() < 0.01 && (f64::from(size[3]) - height).abs() < 0.01,
                "{size:?}"
            );
        }
    }
}

/// Read back by lopdf: every instruction whole, every take, the fourth too.
#[test]
fn the_sheet_keeps_every_word_and_every_take() {
    let document = Document::load_mem(&measuring_sheet(&sheet(), Paper::A4).unwrap()).unwrap();
    let pages: Vec<u32> = document.get_pages().keys().copied().collect();
    let text = document.extract_text(&pages).unwrap();
    let words: String = text.split_whitespace().collect::<Vec<_>>().join(" ");
    for row in catalogue() {
        for word in row.how.split_whitespace() {
            assert!(words.contains(word), "{}: {word:?} is missing", row.code);
        }
    }
    assert!(!words.contains('\u{2026}'), "something was cut short");
    assert_eq!(words.matches("37 1/2").count(), catalogue().len());
    assert_eq!(words.matches("37 7/8").count(), catalogue().len(), "the fourth take");
    assert!(words.contains("\u{141}ucja"), "{}", &words[..200]);
}

#[test]
fn a_blank_sheet_has_a_page_even_without_rows() {
    let bytes = measuring_sheet(&Sheet::default(), Paper::A4).unwrap();
    assert_eq!(Document::load_mem(&bytes).unwrap().get_pages().len(), 1);
}
