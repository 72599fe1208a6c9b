//! Worksheets of the drafting table and of a plan: what the core found, laid out for paper.

use yardwand_core::Style;
use yardwand_core::compare::{Comparison, DifferenceGrade, Explanation, Plan};
use yardwand_core::draft::{Draft, DraftStep, step_views};
use yardwand_core::pattern::PieceKind;
use yardwand_paper::{Column, Item, Mark, Paper, PaperError, Stroke, Worksheet, worksheet};

fn columns(of: &[(&str, f64)]) -> Vec<Column> {
    of.iter().map(|(name, share)| Column { name: (*name).to_owned(), share: *share }).collect()
}

/// The construction of a draft, step by step, with a drawing after the last step of each piece.
pub(crate) fn draft_sheet(
    draft: &Draft,
    under: &str,
    style: Style,
    paper: Paper,
) -> Result<Vec<u8>, PaperError> {
    let mut sheet = Worksheet {
        title: "Construction".to_owned(),
        under: format!(
            "{under} Exact figures to check by, rounded ones for the tape; on paper, work with the rounded ones."
        ),
        items: Vec::new(),
    };
    for note in &draft.notes {
        sheet = sheet.and(Item::Words(format!("Note: {}", note.says)));
    }
    let mut piece: Option<PieceKind> = None;
    for (index, step) in step_views(&draft.steps, style).into_iter().enumerate() {
        if piece != Some(step.piece) {
            piece = Some(step.piece);
            sheet = sheet.and(Item::Heading(step.piece_name.clone())).and(whole_drawing(draft, step.piece));
        }
        sheet = sheet.and(Item::Words(format!("{}. {}", index + 1, step.title)));
        if step.lines.is_empty() {
            continue;
        }
        let rows = step
            .lines
            .into_iter()
            .map(|line| vec![line.name, line.formula, line.put_in, line.exact, line.rounded]);
        sheet = sheet.and(Item::Table {
            columns: columns(&[
                ("what", 0.22),
                ("formula", 0.33),
                ("put in", 0.22),
                ("exact", 0.11),
                ("rounded", 0.12),
            ]),
            rows: rows.collect(),
        });
    }
    worksheet(&sheet, paper)
}

/// Everything a piece is drawn through, thin, and the finished net line, strong.
fn whole_drawing(draft: &Draft, piece: PieceKind) -> Item {
    let of_piece: Vec<&DraftStep> = draft.steps.iter().filter(|step| step.piece == piece).collect();
    let curves = of_piece.iter().flat_map(|step| &step.curves);
    let thin = curves.map(|curve| Stroke { path: curve.to_path(), strong: false });
    let net = draft.pattern.piece(piece).map(|piece| Stroke { path: piece.outline(), strong: true });
    let marks = of_piece
        .iter()
        .flat_map(|step| &step.points)
        .map(|(name, at)| Mark { name: name.clone(), at: *at })
        .collect();
    Item::Drawing { strokes: thin.chain(net).collect(), marks, height: 120.0 }
}

/// A comparison and its plan, to work from at the table.
pub(crate) fn plan_sheet(
    title: &str,
    under: &str,
    comparison: &Comparison,
    explanations: &[Explanation],
    plan: &Plan,
    style: Style,
    paper: Paper,
) -> Result<Vec<u8>, PaperError> {
    let figure = |shown: &Option<yardwand_core::Shown>| {
        shown.as_ref().map_or_else(|| "\u{2013}".to_owned(), |shown| shown.text.clone())
    };
    let grade = |grade: DifferenceGrade| match grade {
        DifferenceGrade::Fits => "fits",
        DifferenceGrade::Alter => "alter",
        DifferenceGrade::Remeasure => "measure again",
        DifferenceGrade::Missing => "not measured",
    };
    let rows = comparison.rows.iter().map(|row| {
        vec![
            row.name.clone(),
            figure(&row.body),
            row.ease.text.clone(),
            figure(&row.target),
            row.block.text.clone(),
            figure(&row.on_pattern),
            grade(row.grade).to_owned(),
        ]
    });
    let mut sheet = Worksheet { title: title.to_owned(), under: under.to_owned(), items: Vec::new() }
        .and(Item::Heading(format!("Client against block, in {}", style.unit().plural())))
        .and(Item::Table {
            columns: columns(&[
                ("dimension", 0.3),
                ("body", 0.11),
                ("ease", 0.1),
                ("target", 0.12),
                ("block", 0.11),
                ("on pattern", 0.12),
                ("grade", 0.14),
            ]),
            rows: rows.collect(),
        });
    for each in explanations {
        sheet = sheet.and(Item::Words(format!("{}: {}", each.title, each.says)));
    }
    sheet = sheet.and(Item::Heading("Plan, in this order".to_owned()));
    let lines = plan.lines.iter().filter(|line| line.done).enumerate().map(|(index, line)| {
        let how = match (&line.alteration, &line.refused) {
            (_, Some(refused)) => format!(" Not possible as it stands: {refused}."),
            (Some(_), None) => String::new(),
            (None, None) => " By hand.".to_owned(),
        };
        vec![
            format!("{}.", index + 1),
            line.name.clone(),
            format!("{} {}", style.with_unit(line.amount.mm), line.on),
            format!("{} {}", style.exact(line.amount.mm), style.unit().suffix()),
            format!("{}{how}", line.reason),
        ]
    });
    sheet = sheet.and(Item::Table {
        columns: columns(&[("", 0.05), ("line", 0.2), ("amount", 0.23), ("exact", 0.12), ("why", 0.4)]),
        rows: lines.collect(),
    });
    let left: Vec<&str> =
        plan.lines.iter().filter(|line| !line.done).map(|line| line.name.as_str()).collect();
    if !left.is_empty() {
        sheet = sheet.and(Item::Words(format!("Left out: {}.", left.join(", "))));
    }
    let dropped: Vec<String> = plan
        .dropped
        .iter()
        .map(|line| format!("{} {}", line.name, style.with_unit(line.amount.mm)))
        .collect();
    if !dropped.is_empty() {
        sheet = sheet.and(Item::Words(format!("Too small to act on: {}.", dropped.join(", "))));
    }
    if !plan.predictions.is_empty() {
        let rows = plan.predictions.iter().map(|row| {
            let closes = if row.fits { "closes" } else { "by hand" };
            vec![
                row.name.clone(),
                row.before.text.clone(),
                row.predicted.text.clone(),
                row.target.text.clone(),
                closes.to_owned(),
            ]
        });
        sheet = sheet.and(Item::Heading("Figures after the plan".to_owned())).and(Item::Table {
            columns: columns(&[
                ("dimension", 0.36),
                ("block", 0.16),
                ("after the plan", 0.18),
                ("target", 0.16),
                ("", 0.14),
            ]),
            rows: rows.collect(),
        });
    }
    worksheet(&sheet, paper)
}
