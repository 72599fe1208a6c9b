//! Readings as files: CSV, JSON, and the measuring sheet on paper.

use axum::extract::State;
use axum::response::Response;
use kurbo::{BezPath, Rect};
use serde::Deserialize;
use utoipa::IntoParams;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Unit;
use yardwand_core::body::{Body, Frame, Measurement, Side, draw_body, draw_tape, measurement};
use yardwand_paper::tables::{ReadingOut, write_csv, write_json};
use yardwand_paper::{Paper, Sheet, SheetRow, SheetSide, Stroke, TapeDrawing, measuring_sheet};
use yardwand_store::{ReadingRow, SessionRow};

use super::print::SheetPaper;
use super::sets::set_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, QueryString};
use crate::figures::{SessionReadings, name_of, profile_of_client, said_of};
use crate::views::attached;

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct SheetAsked {
    /// The paper.
    #[serde(default = "super::print::a4")]
    #[param(inline, required = false)]
    paper: SheetPaper,
    /// The measurement set.
    #[serde(default = "everything")]
    set: String,
}

fn everything() -> String {
    "everything".to_owned()
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(csv))
        .routes(routes!(json))
        .routes(routes!(blank))
        .routes(routes!(blank_for))
        .routes(routes!(filled))
}

/// Every reading of a client that stands.
pub(super) async fn readings_of(state: &AppState, client: u64) -> Result<Vec<ReadingOut>, ApiError> {
    let name = state.store.client(client).await?.name;
    let rows = state.store.all_readings(client).await?;
    Ok(rows.into_iter().map(|row| reading_out(&name, row)).collect())
}

fn reading_out(client: &str, row: ReadingRow) -> ReadingOut {
    let differs = measurement(&row.code).and_then(|row| row.differs.clone());
    let method: Vec<String> = row.taken.says().into_iter().chain(differs).collect();
    ReadingOut {
        client: client.to_owned(),
        taken_on: row.taken_at.date_naive(),
        measurement: row.code,
        side: row.side,
        value: row.entered.typed,
        unit: row.entered.unit,
        mm: row.entered.length.mm(),
        method: method.join("; "),
        schools: row.taken.schools.iter().map(|(m, s)| format!("{m}={s}")).collect::<Vec<_>>().join(";"),
        ease_mm: row.taken.ease_mm,
        measured_by: row.taken_by,
        note: row.note,
        stands: row.stands.unwrap_or_default(),
    }
}

/// All readings of a client as CSV (RFC 4180).
#[utoipa::path(get, path = "/api/clients/{id}/readings.csv", responses((status = 200, content_type = "text/csv"), (status = 404, body = Problem)))]
async fn csv(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    Ok(attached(
        "text/csv; charset=utf-8; header=present",
        &format!("readings-{id}.csv"),
        write_csv(&readings_of(&state, id).await?),
    ))
}

/// All readings of a client as JSON, with format and version.
#[utoipa::path(get, path = "/api/clients/{id}/readings.json", responses((status = 200, content_type = "application/json"), (status = 404, body = Problem)))]
async fn json(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    Ok(attached(
        "application/json",
        &format!("readings-{id}.json"),
        write_json(&readings_of(&state, id).await?),
    ))
}

/// A blank row for each measurement, with the tape drawn on the figure and, where it has sides, boxes for both.
fn sheet_rows(codes: &[String], body: &Body, last: impl Fn(&str, Side) -> String) -> Vec<SheetRow> {
    let row = |code: &String| {
        let row = measurement(code)?;
        let sides: &[Side] = if row.sides { &[Side::Left, Side::Right] } else { &[Side::Both] };
        let boxes = |side: &Side| SheetSide {
            name: side_name(*side).to_owned(),
            last: last(code, *side),
            takes: Vec::new(),
        };
        Some(SheetRow {
            name: row.name.clone(),
            how: row.how.clone(),
            sides: sides.iter().map(boxes).collect(),
            drawing: tape_drawing(row, body),
            ..SheetRow::default()
        })
    };
    codes.iter().filter_map(row).collect()
}

const fn side_name(side: Side) -> &'static str {
    match side {
        Side::Both => "",
        Side::Left => "left",
        Side::Right => "right",
    }
}

/// The tape of a measurement on the figure it is taken on.
fn tape_drawing(row: &Measurement, body: &Body) -> Option<TapeDrawing> {
    let tape = draw_tape(&row.tape, body)?;
    let figure = draw_body(tape.view, body);
    // The core writes these paths itself; one that could not be read would only be missing here.
    let read = |text: &String, strong| BezPath::from_svg(text).ok().map(|path| Stroke { path, strong });
    let thin = figure.body.iter().filter_map(|text| read(text, false));
    let frame = match tape.frame {
        Frame::Whole => figure.bounds,
        // Legs would make the rest too small to see.
        Frame::Upper => figure.upper,
    };
    Some(TapeDrawing {
        strokes: thin.chain(read(&tape.path, true)).collect(),
        window: Rect::new(frame.x, frame.y, frame.x + frame.width, frame.y + frame.height),
    })
}

const fn unit_name(unit: Unit) -> &'static str {
    match unit {
        Unit::Inch => "inches",
        Unit::Cm => "centimetres",
        Unit::Mm => "millimetres",
    }
}

/// A blank measuring sheet for anyone.
#[utoipa::path(get, path = "/api/sheet.pdf", params(SheetAsked), responses((status = 200, content_type = "application/pdf"), (status = 422, body = Problem)))]
async fn blank(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(asked): QueryString<SheetAsked>,
) -> Result<Response, ApiError> {
    let (_, set, codes) = set_of(&state.store, &asked.set).await?;
    let house = state.store.house().await?;
    let body = Body::middle();
    let rows = sheet_rows(&house.measuring.in_order(&codes), &body, |_, _| String::new());
    let unit = unit_name(house.style.unit()).to_owned();
    let sheet = Sheet { set, unit, rows, ..Sheet::default() };
    Ok(attached("application/pdf", "measuring-sheet.pdf", measuring_sheet(&sheet, asked.paper.into())?))
}

/// A blank measuring sheet for a client, with her last figures.
#[utoipa::path(get, path = "/api/clients/{id}/sheet.pdf", params(SheetAsked), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn blank_for(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    QueryString(asked): QueryString<SheetAsked>,
) -> Result<Response, ApiError> {
    let client = state.store.client(id).await?;
    let (_, set, codes) = set_of(&state.store, &asked.set).await?;
    let (house, profile) = (state.store.house().await?, profile_of_client(&state.store, id).await?);
    let last = |code: &str, side: Side| {
        let mm = profile.get(code).and_then(|figure| figure.of(side).or(figure.mm));
        mm.map(|mm| house.style.show(mm).text).unwrap_or_default()
    };
    let rows = sheet_rows(&house.measuring.in_order(&codes), &profile.body(), last);
    let unit = unit_name(house.style.unit()).to_owned();
    let sheet = Sheet { client: client.name, set, unit, rows, ..Sheet::default() };
    Ok(attached("application/pdf", "measuring-sheet.pdf", measuring_sheet(&sheet, asked.paper.into())?))
}

fn signature(session: &SessionRow) -> String {
    let day = session.started_at.format("%-d %B %Y");
    let signed = session.signed.as_ref().map(|name| format!(", signed {name}")).unwrap_or_default();
    let over = match session.foundation.as_str() {
        "" => String::new(),
        worn => format!(", over {worn}"),
    };
    format!("{day}, measured by {}{over}{signed}", session.measurer)
}

/// The sheet of a session, filled.
#[utoipa::path(get, path = "/api/sessions/{id}/sheet.pdf", params(SheetAsked), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem)))]
async fn filled(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    QueryString(asked): QueryString<SheetAsked>,
) -> Result<Response, ApiError> {
    let bench = SessionReadings::of(&state.store, id).await?;
    let client = state.store.client(bench.session.client_id).await?;
    let skipped = state.store.skipped(id).await?;
    let mut rows = Vec::new();
    for row in bench.codes.iter().filter_map(|code| measurement(code)) {
        let sides: Vec<Side> = [Side::Both, Side::Left, Side::Right]
            .into_iter()
            .filter(|side| !bench.takes(&row.code, *side).is_empty())
            .collect();
        let left_out = skipped
            .iter()
            .find(|skip| skip.code == row.code)
            .map(|skip| format!("left out: {}", skip.reason));
        let mut remarks: Vec<String> = left_out.into_iter().collect();
        let mut boxes = Vec::new();
        for side in if sides.is_empty() { vec![Side::Both] } else { sides } {
            let takes = bench.takes(&row.code, side);
            let of_side = |said: String| match side_name(side) {
                "" => said,
                name => format!("{name}: {said}"),
            };
            for take in &takes {
                let stands =
                    take.stands.as_ref().map(|by| of_side(format!("{} stands ({by})", take.entered.typed)));
                let note = Some(take.note.clone()).filter(|note| !note.is_empty()).map(of_side);
                remarks.extend(stands.into_iter().chain(note));
            }
            let method = takes.last().map(|take| said_of(&take.taken, bench.style())).unwrap_or_default();
            remarks.extend(method.into_iter().filter(|said| !remarks.contains(said)).collect::<Vec<_>>());
            boxes.push(SheetSide {
                name: side_name(side).to_owned(),
                last: bench
                    .earlier(&row.code, side)
                    .map(|e| bench.style().show(e.mm).text)
                    .unwrap_or_default(),
                takes: takes.iter().map(|take| take.entered.typed.clone()).collect(),
            });
        }
        rows.push(SheetRow {
            name: name_of(&row.code),
            how: row.how.clone(),
            sides: boxes,
            note: remarks.join("; "),
            drawing: None,
        });
    }
    let sheet = Sheet {
        client: client.name,
        set: bench.session.set_name.clone(),
        unit: unit_name(bench.session.unit).to_owned(),
        signed: signature(&bench.session),
        rows,
    };
    let paper: Paper = asked.paper.into();
    Ok(attached("application/pdf", "measured.pdf", measuring_sheet(&sheet, paper)?))
}
