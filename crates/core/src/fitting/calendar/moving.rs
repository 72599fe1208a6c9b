//! Moving a visit, and with it what depends on it.

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};

use super::days::Workdays;
use super::{HouseCalendar, PlannedVisit, Visit, VisitKind, Wish, said};

/// What moving a visit does.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MoveSaid {
    /// All visits as they would be.
    pub visits: Vec<PlannedVisit>,
    /// What moves along, a sentence each.
    pub moves: Vec<String>,
    /// How delivery stands to the wanted date afterwards.
    pub late: Option<String>,
}

/// Moves a visit to a day. Later visits make room, earlier ones come sooner; those that are settled stay.
///
/// # Errors
///
/// Why it cannot be on that day, or which visit cannot make room.
pub fn move_visit(
    house: &HouseCalendar,
    wish: &Wish,
    visits: &[PlannedVisit],
    visit: Visit,
    to: NaiveDate,
) -> Result<MoveSaid, String> {
    let days = Workdays::of(house, wish);
    let at = visits.iter().position(|p| p.visit == visit).ok_or("this garment has no such date")?;
    if to < wish.today {
        return Err(format!("{} lies before today: choose today or later", said(to)));
    }
    if let Some(why) = days.hinders(to, visit.kind) {
        return Err(format!("{why}: choose another day"));
    }
    let mut moved = visits.to_vec();
    moved[at].on = to;
    for i in at + 1..moved.len() {
        let gap = house.gaps.between(moved[i - 1].visit, moved[i].visit);
        let soonest = days.after(moved[i - 1].on, gap).ok_or("no working day is left")?;
        if moved[i].on >= soonest {
            break;
        }
        if moved[i].settled {
            return Err(stays(&moved[i], &moved[i - 1], gap));
        }
        moved[i].on = days.first_from(soonest, moved[i].visit.kind).ok_or("no day is left for it")?;
    }
    for i in (0..at).rev() {
        let gap = house.gaps.between(moved[i].visit, moved[i + 1].visit);
        let latest = days.before(moved[i + 1].on, gap).ok_or("no working day is left")?;
        if moved[i].on <= latest {
            break;
        }
        if moved[i].settled {
            return Err(stays(&moved[i], &moved[i + 1], gap));
        }
        let on = days.last_by(latest, moved[i].visit.kind).ok_or("no day is left for it")?;
        if on < wish.today {
            return Err(format!(
                "{} would have to be on {}, before today: {gap} working days are needed from it to {}",
                moved[i].name,
                said(on),
                moved[i + 1].name
            ));
        }
        moved[i].on = on;
    }
    let moves = visits.iter().zip(&moved).filter(|(was, is)| was.on != is.on && is.visit != visit);
    let moves = moves.map(|(was, is)| format!("{} moves from {} to {}.", is.name, said(was.on), said(is.on)));
    let moves = moves.collect();
    let delivery = moved.iter().find(|p| p.visit.kind == VisitKind::Delivery).map(|p| p.on);
    let late = delivery.filter(|on| *on > wish.wanted).map(|on| {
        let by = (on - wish.wanted).num_days();
        format!("Delivery is then on {}, {by} days after the wanted date.", said(on))
    });
    Ok(MoveSaid { visits: moved, moves, late })
}

fn stays(settled: &PlannedVisit, other: &PlannedVisit, gap: u32) -> String {
    format!(
        "{} on {} stays where it is, and {gap} working days are needed between it and {}",
        settled.name,
        said(settled.on),
        other.name
    )
}
