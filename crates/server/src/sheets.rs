//! Worksheets of the drafting table, of a plan and of a recipe: what the core found, laid out for paper.

use crate::routes::{ClientStory, GarmentStory};
use kurbo::{Affine, BezPath, Point, Rect, Shape};
use yardwand_core::Style;
use yardwand_core::alter::{
    Altered, FollowKind, Made, MadeStep, PlaceName, Stage, StageDrawing, alteration, amount_views, choices,
    decisions, sums,
};
use yardwand_core::compare::{Comparison, DifferenceGrade, Explanation, Plan};
use yardwand_core::draft::{Draft, DraftStep, step_views};
use yardwand_core::pattern::{Pattern, PieceKind, check_pattern, joinings, measure};
use yardwand_paper::{Cell, Column, Item, Mark, Paper, PaperError, Stroke, Worksheet, worksheet};

pub(crate) fn columns(of: &[(&str, f64)]) -> Vec<Column> {
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
    let sure = |text: String, spread: Option<&yardwand_core::Shown>| match spread {
        Some(spread) => format!("{text} \u{b1} {}", spread.text),
        None => text,
    };
    let grade = |grade: DifferenceGrade| match grade {
        DifferenceGrade::Fits => "fits",
        DifferenceGrade::WithinReading => "within the reading",
        DifferenceGrade::Alter => "alter",
        DifferenceGrade::Remeasure => "measure again",
        DifferenceGrade::Missing => "not measured",
    };
    let rows = comparison.rows.iter().map(|row| {
        let settled = row.settled.as_ref().map(|says| format!(", {says}"));
        vec![
            format!("{}{}", row.name, settled.unwrap_or_default()),
            figure(&row.body),
            row.ease.text.clone(),
            figure(&row.target),
            row.block.text.clone(),
            sure(
                figure(&row.on_pattern),
                row.spread_on_pattern.as_ref().filter(|_| row.on_pattern.is_some()),
            ),
            grade(row.grade).to_owned(),
        ]
    });
    let mut sheet = Worksheet { title: title.to_owned(), under: under.to_owned(), items: Vec::new() }
        .and(Item::Heading(format!("Client against block, in {}", style.unit().plural())))
        .and(Item::Table {
            columns: columns(&[
                ("dimension", 0.28),
                ("body", 0.11),
                ("ease", 0.09),
                ("target", 0.11),
                ("block", 0.11),
                ("on pattern", 0.16),
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
            format!(
                "{} {}",
                sure(style.part_with_unit(line.amount.mm, line.parts), line.spread.as_ref()),
                line.on
            ),
            format!("{} {}", style.exact(line.amount.mm), style.unit().suffix()),
            format!("{}{how}", line.reason),
        ]
    });
    sheet = sheet.and(Item::Table {
        columns: columns(&[("", 0.05), ("line", 0.2), ("amount", 0.23), ("exact", 0.12), ("why", 0.4)]),
        rows: lines.collect(),
    });
    if let Some(says) = plan.doubt.as_ref().and_then(|doubt| doubt.says.as_ref()) {
        sheet = sheet.and(Item::Words(format!("\u{b1} is the spread of the tape. {says}")));
    }
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
            let closes = match (row.fits, row.by_product) {
                (true, _) => "closes",
                (false, true) => "comes with the lines",
                (false, false) => "by hand",
            };
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

/// How high a stage is drawn on paper, in millimetres.
const STAGE_HEIGHT: f64 = 58.0;
/// Between pieces drawn side by side, in millimetres of the pattern.
const BETWEEN: f64 = 30.0;

/// A recipe as steps for shears, tape and paper: amounts exact and rounded, a drawing a stage, what follows.
pub(crate) fn recipe_sheet(
    under: &str,
    block: &Pattern,
    made: &Made,
    style: Style,
    paper: Paper,
) -> Result<Vec<u8>, PaperError> {
    let mut sheet = Worksheet {
        title: "Alteration worksheet".to_owned(),
        under: format!(
            "{under} All lines are net: stitching lines. Exact amounts to check by, rounded ones for the tape."
        ),
        items: Vec::new(),
    };
    if made.steps.is_empty() {
        sheet = sheet.and(Item::Words("Nothing is altered: the pattern is the block as it is.".to_owned()));
    }
    for (index, step) in made.steps.iter().enumerate() {
        sheet = step_items(index + 1, step, style).into_iter().fold(sheet, Worksheet::and);
    }
    let reminders: Vec<String> = made
        .steps
        .iter()
        .filter_map(MadeStep::altered)
        .flat_map(|altered| &altered.follow_ups)
        .filter(|follow| follow.kind != FollowKind::Done)
        .map(|follow| follow.says.clone())
        .collect();
    if !reminders.is_empty() {
        sheet = sheet.and(Item::Heading("Still to follow".to_owned()));
        sheet = reminders
            .into_iter()
            .fold(sheet, |sheet, says| sheet.and(Item::Words(format!("\u{2013} {says}"))));
    }
    sheet = sheet
        .and(Item::Heading("Figures before and after".to_owned()))
        .and(figures_table(block, made, style));
    sheet = sheet.and(Item::Heading("Before you cut".to_owned()));
    for check in check_pattern(&made.pattern, style) {
        let verdict = if check.passed { "holds" } else { "look here" };
        sheet = sheet.and(Item::Words(format!("{} ({verdict}): {}.", check.name, check.says)));
    }
    worksheet(&joining_items(&made.pattern, style).into_iter().fold(sheet, Worksheet::and), paper)
}

/// How the toile is pinned together; nothing where the pattern has one piece alone.
fn joining_items(pattern: &Pattern, style: Style) -> Vec<Item> {
    let rows: Vec<Vec<String>> = joinings(pattern, style)
        .into_iter()
        .map(|seam| {
            let lies =
                if seam.eased.is_empty() { seam.lies } else { format!("{}; {}", seam.lies, seam.eased) };
            let length = format!("{} {}", seam.length.text, style.unit().suffix());
            vec![seam.name, length, lies, seam.held.to_owned(), seam.pins.to_string()]
        })
        .collect();
    if rows.is_empty() {
        return Vec::new();
    }
    let columns =
        columns(&[("seam", 0.2), ("long", 0.1), ("lies", 0.31), ("held first", 0.31), ("pins", 0.08)]);
    vec![
        Item::Heading("Pinning the toile together".to_owned()),
        Item::Words(
            "Lapped on the stitching lines, pins across the seam: one can be moved while it is worn."
                .to_owned(),
        ),
        Item::Table { columns, rows },
    ]
}

fn step_items(number: usize, made: &MadeStep, style: Style) -> Vec<Item> {
    let step = &made.step;
    let Some(known) = alteration(&step.alteration) else { return Vec::new() };
    let side = step.side.map_or_else(String::new, |side| format!(", {} only", side.name()));
    let mut items = vec![Item::Heading(format!("{number}. {}{side}", known.name()))];
    let reasons = decisions(step).into_iter().map(|each| each.says).filter(|says| !says.is_empty());
    items.extend(reasons.map(|says| Item::Words(format!("Why: {says}"))));
    items.extend(
        sums(known, step, style)
            .into_iter()
            .map(|sum| Item::Words(format!("Added up: {sum} {}.", style.unit().suffix()))),
    );
    let total = step.total();
    let amounts = amount_views(known, &total, style);
    let mut rows: Vec<Vec<String>> = amounts
        .into_iter()
        .map(|view| {
            let exact = format!("{} {}", style.exact(view.amount.mm), style.unit().suffix());
            vec![view.on, exact, format!("{} {}", view.amount.text, style.unit().suffix())]
        })
        .collect();
    rows.extend(choices(known, &total, style).into_iter().map(|said| {
        let (name, value) = said.split_once(": ").unwrap_or((said.as_str(), ""));
        vec![name.to_owned(), value.to_owned(), String::new()]
    }));
    if !rows.is_empty() {
        items.push(Item::Table {
            columns: columns(&[("amount", 0.4), ("exact", 0.35), ("rounded", 0.25)]),
            rows,
        });
    }
    match &made.outcome {
        None => items.push(Item::Words("Switched off: left out.".to_owned())),
        Some(Err(error)) => items.push(Item::Words(format!("Not possible as it stands: {error}."))),
        Some(Ok(altered)) => items.extend(stage_items(altered, style)),
    }
    items
}

fn stage_items(altered: &Altered, style: Style) -> Vec<Item> {
    let cells = altered.stages_in(style).iter().map(stage_cell).collect();
    let done = altered.follow_ups.iter().filter(|follow| follow.kind == FollowKind::Done);
    let done = done.map(|follow| Item::Words(format!("Done with it: {}", follow.says)));
    std::iter::once(Item::Stages { cells, height: STAGE_HEIGHT }).chain(done).collect()
}

/// A stage's pieces side by side: what stays thin, what moves and what is ruled strong.
fn stage_cell(stage: &Stage) -> Cell {
    let (mut strokes, mut marks): (Vec<Stroke>, Vec<Mark>) = Default::default();
    let mut right = 0.0;
    for drawing in &stage.drawings {
        let lines = drawing_strokes(drawing);
        let bounds = lines.iter().map(|line| line.path.bounding_box()).reduce(|a, b| Rect::union(&a, b));
        let Some(bounds) = bounds else { continue };
        let across = Affine::translate((right - bounds.x0, 0.0));
        right += bounds.width() + BETWEEN;
        let named = |each: &PlaceName| Mark {
            name: each.name.clone(),
            at: across * Point::new(each.at.x, each.at.y),
        };
        marks.extend(drawing.names.iter().map(named));
        strokes.extend(lines.into_iter().map(|line| Stroke { path: across * line.path, ..line }));
    }
    Cell { words: format!("{}: {}", stage.kind.name(), stage.words), strokes, marks }
}

fn drawing_strokes(drawing: &StageDrawing) -> Vec<Stroke> {
    // The core writes these paths itself; one that could not be read would only be missing here.
    let read = |text: &String, strong| BezPath::from_svg(text).ok().map(|path| Stroke { path, strong });
    let outline = Some(&drawing.outline).filter(|outline| !outline.is_empty());
    let thin = outline.into_iter().chain(&drawing.still).filter_map(|text| read(text, false));
    let strong = drawing.moving.iter().chain(&drawing.lines).filter_map(|text| read(text, true));
    let hinges = drawing.hinges.iter().map(|hinge| {
        let ring = kurbo::Circle::new((hinge.x, hinge.y), 5.0);
        Stroke { path: ring.to_path(0.1), strong: true }
    });
    thin.chain(strong).chain(hinges).collect()
}

fn figures_table(block: &Pattern, made: &Made, style: Style) -> Item {
    let (before, after) = (measure(block), measure(&made.pattern));
    let rows = after.iter().filter_map(|(figure, mm)| {
        let was = before.get(figure)?;
        let changed = (mm - was).abs() > 0.05;
        changed.then(|| {
            vec![
                figure.name().to_owned(),
                style.with_unit(was),
                style.with_unit(mm),
                format!("{} {}", style.exact(mm - was), style.unit().suffix()),
            ]
        })
    });
    Item::Table {
        columns: columns(&[("figure", 0.4), ("block", 0.2), ("now", 0.2), ("change, exact", 0.2)]),
        rows: rows.collect(),
    }
}

/// The story of a garment, round by round, as the workroom reads it.
pub(crate) fn story_sheet(story: &GarmentStory, style: Style, paper: Paper) -> Result<Vec<u8>, PaperError> {
    let order = &story.order;
    let wanted = order.wanted_on.map(|day| format!(", wanted for {}", day.format("%-d %B %Y")));
    let mut sheet = Worksheet {
        title: format!("{}: {}", order.client, order.garment),
        under: format!("Ordered {}{}.", story.ordered_at.format("%-d %B %Y"), wanted.unwrap_or_default()),
        items: Vec::new(),
    };
    if !story.shaped.is_empty() {
        sheet = sheet.and(Item::Heading("What she wished".to_owned()));
    }
    for shaped in &story.shaped {
        let from = if shaped.version == 1 { String::new() } else { format!(" (version {})", shaped.version) };
        let says = if shaped.says.is_empty() { String::new() } else { format!(": {}", shaped.says) };
        sheet = sheet.and(Item::Words(format!("{}{from}{says}", shaped.name)));
    }
    for round in &story.rounds {
        let heading =
            format!("Round {} on version {}, {}", round.number, round.version, round.on.format("%-d %B %Y"));
        sheet = sheet.and(Item::Heading(heading));
        let worn = if round.worn.is_empty() { String::new() } else { format!(" Worn: {}", round.worn) };
        sheet = sheet.and(Item::Words(format!("Fitted by {}.{worn}", round.by)));
        for became in &round.became {
            sheet = sheet.and(Item::Words(format!("{}: {}.", became.said, became.mark.code())));
            if let Some(warning) = &became.warning {
                sheet = sheet.and(Item::Words(format!("Note: {warning}")));
            }
        }
        let rows = round.story_rows();
        if !rows.is_empty() {
            sheet = sheet.and(Item::Table {
                columns: columns(&[("seen", 0.34), ("pinned, per half", 0.16), ("decided", 0.5)]),
                rows,
            });
        }
        for line in round.line_words() {
            sheet = sheet.and(Item::Words(line));
        }
        if !round.comfort.is_empty() {
            sheet = sheet.and(Item::Words(format!("She said: \u{201c}{}\u{201d}", round.comfort)));
        }
        if let Some(version) = round.made_version {
            let changed: Vec<String> = round
                .changed
                .iter()
                .filter_map(|row| Some(format!("{} {}", row.name, signed(style, row.change.as_ref()?.mm))))
                .collect();
            let changed =
                if changed.is_empty() { String::new() } else { format!(": {}", changed.join(", ")) };
            sheet = sheet.and(Item::Words(format!("It made version {version}{changed}.")));
        }
        let left = style.with_unit(round.pinned.mm);
        sheet = sheet
            .and(Item::Words(format!("Still open after it: {}. Pinned in all: {left} a half.", round.open)));
    }
    if let Some(at) = order.finished_at {
        sheet = sheet.and(Item::Heading(format!("Handed over {}", at.format("%-d %B %Y"))));
    }
    worksheet(&sheet, paper)
}

fn signed(style: Style, mm: f64) -> String {
    let sign = if mm > 0.0 { "+" } else { "" };
    format!("{sign}{}", style.with_unit(mm))
}

/// The story as a client reads it.
pub(crate) fn client_story_sheet(story: &ClientStory, paper: Paper) -> Result<Vec<u8>, PaperError> {
    let mut sheet = Worksheet {
        title: story.garment.clone(),
        under: format!("Made for {} by {}.", story.client, story.house),
        items: Vec::new(),
    };
    for chapter in &story.chapters {
        let heading = format!("{}, {}", chapter.title, chapter.on.format("%-d %B %Y"));
        sheet = sheet.and(Item::Heading(heading));
        for line in &chapter.lines {
            sheet = sheet.and(Item::Words(line.clone()));
        }
    }
    worksheet(&sheet, paper)
}

/// What somebody of the house has learnt in the practice room: name, how often it went well, how often it was done.
pub(crate) fn certificate_sheet(
    house: &str,
    person: &str,
    day: chrono::NaiveDate,
    done: usize,
    known: &[(String, usize, usize)],
    paper: Paper,
) -> Result<Vec<u8>, PaperError> {
    let rests = format!(
        "{person} has done {done} {} of the practice room of {house}: figures with a hidden cause, and tapes to read. What \
         stands below went well each time it came again, over days that grew longer.",
        if done == 1 { "exercise" } else { "exercises" }
    );
    let sheet = Worksheet {
        title: "Certificate of practice".to_owned(),
        under: format!("{house}, {}", day.format("%-d %B %Y")),
        items: Vec::new(),
    }
    .and(Item::Heading(person.to_owned()))
    .and(Item::Words(rests));
    let sheet = if known.is_empty() {
        sheet.and(Item::Words("Nothing is known well yet: it is printed again when something is.".to_owned()))
    } else {
        let rows =
            known.iter().map(|(name, well, done)| vec![name.clone(), well.to_string(), done.to_string()]);
        sheet.and(Item::Heading("Known well".to_owned())).and(Item::Table {
            columns: columns(&[("of", 0.6), ("went well", 0.2), ("done", 0.2)]),
            rows: rows.collect(),
        })
    };
    worksheet(&sheet.and(Item::Words("For the house: ______________________________".to_owned())), paper)
}
