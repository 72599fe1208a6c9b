//! The demo's measuring book: earlier sessions, repeats, left and right, forms, a set of the house's own. All invented.

use yardwand_core::body::{
    Body, FormMarking, Halving, LineHeights, MarkedLine, Side, Taken, measurement_set,
};
use yardwand_core::{INCH, Length, Unit};
use yardwand_store::{Backdated, FormRow, NewReading, NewSession, Posture, SetRow};

use super::{STYLE, Seeded, Seeder, ago, house_figure};

/// One reading of an earlier session, in inches.
struct Past {
    code: &'static str,
    side: Side,
    takes: &'static [&'static str],
    /// The start of front lengths, where it was not the neck side.
    from_nape: bool,
}

const fn past(code: &'static str, takes: &'static [&'static str]) -> Past {
    Past { code, side: Side::Both, takes, from_nape: false }
}

/// The cellist's figures over two years: (days ago, readings).
const CELLIST: [(i64, &[Past]); 4] = [
    (
        700,
        &[
            past("bust_girth", &["39 7/8"]),
            past("waist_girth", &["29 1/2"]),
            past("hip_girth", &["41"]),
            Past { code: "snp_to_waist_front", side: Side::Both, takes: &["20 7/8"], from_nape: true },
        ],
    ),
    (
        430,
        &[
            past("bust_girth", &["40 1/4", "40 1/8"]),
            past("waist_girth", &["29 3/4", "29 7/8"]),
            past("hip_girth", &["41 1/4"]),
            Past { code: "snp_to_waist_front", side: Side::Both, takes: &["21"], from_nape: true },
        ],
    ),
    (
        210,
        &[
            past("bust_girth", &["40 1/2", "40 5/8"]),
            past("waist_girth", &["30", "30 1/2", "30 1/8"]),
            past("hip_girth", &["41 5/8", "41 7/8"]),
            past("snp_to_waist_front", &["18 1/4"]),
        ],
    ),
    (
        44,
        &[
            past("hip_girth", &["42"]),
            past("under_bust_girth", &["35 1/2"]),
            past("height", &["66"]),
            past("waist_to_floor", &["41 1/2"]),
            past("waist_to_hip", &["8 1/4"]),
            Past { code: "upper_arm_girth", side: Side::Left, takes: &["12"], from_nape: false },
            Past {
                code: "upper_arm_girth",
                side: Side::Right,
                takes: &["12 1/2", "12 5/8"],
                from_nape: false,
            },
            past("across_back_arms_forward", &["16 3/4"]),
        ],
    ),
];

impl Seeder<'_> {
    /// Everything about measuring that the garments of the demo do not bring along.
    pub(super) async fn measuring_book(&self) -> Seeded {
        let clients = self.store.clients("Clara", false, None, 1).await?;
        let clara = clients.first().ok_or("the demo lost its cellist")?.clone();
        for (days, readings) in CELLIST {
            self.past_session(clara.id, days, readings).await?;
        }
        let posture = Posture {
            notes: vec![
                "Both shoulders a little forward from the cello".into(),
                "Right upper arm fuller".into(),
            ],
            changing: false,
        };
        self.store
            .set_posture(clara.id, &posture, self.store.client(clara.id).await?.revision, self.once.person)
            .await?;
        let everyday = measurement_set("dress").ok_or("no dress set")?.codes.clone();
        let codes = everyday.into_iter().chain(["across_back_arms_forward".to_owned()]).collect();
        let set = SetRow { id: 0, name: "Players: dress and reach".into(), codes, revision: 0 };
        self.store.save_set(&set, self.once).await?;
        for (name, steps) in [("Linen form, small", -2.0), ("Linen form, middle", 0.0)] {
            self.form(name, steps).await?;
        }
        Ok(())
    }

    async fn past_session(&self, client: u64, days: i64, readings: &[Past]) -> Seeded {
        let codes: Vec<String> = readings.iter().map(|past| past.code.to_owned()).collect();
        let new = NewSession {
            client,
            order: None,
            set_code: "chosen",
            set_name: "Chosen measurements",
            codes: &codes,
            unit: Unit::Inch,
        };
        let session = self.store.open_session(new, self.once).await?;
        for past in readings {
            let mut taken = Taken::default();
            if past.from_nape {
                taken.schools.insert("start".into(), "nape".into());
            }
            for (place, text) in past.takes.iter().enumerate() {
                let plain = NewReading::plain(past.code, Length::read(text, Unit::Inch)?);
                let reading = NewReading { side: past.side, taken: taken.clone(), again: place > 0, ..plain };
                self.store.record(session, &reading, self.once).await?;
            }
        }
        self.store.close_session(session, "Marit Holm", self.once).await?;
        Ok(self.store.backdate(Backdated::Session(session), ago(days)).await?)
    }

    async fn form(&self, name: &str, steps: f64) -> Seeded {
        let house = house_figure(steps);
        let wanted = [
            "neck_base_girth",
            "upper_bust_girth",
            "bust_girth",
            "waist_girth",
            "nape_to_waist_back",
            "snp_to_bust_point",
            "shoulder_length",
            "across_back",
        ];
        let figures: Body = wanted.iter().filter_map(|code| Some((*code, house.get(code)?))).collect();
        // A form is bought to the eighth.
        let to_eighth = |mm: f64| STYLE.step().mm() * (mm / STYLE.step().mm()).round();
        let figures: Body = figures.iter().map(|(code, mm)| (code, to_eighth(mm))).collect();
        let bust = figures.get("bust_girth").unwrap_or_default();
        let figures = figures.with("hip_girth", to_eighth(bust + 50.0)).with("waist_to_hip", 8.0 * INCH);
        let at = |left, right, front, back| {
            let [left, right, front, back] =
                [left, right, front, back].map(|inches: f64| Some(inches * INCH));
            LineHeights { left, right, front, back }
        };
        let bust = MarkedLine { below: None, at: at(49.0, 49.0, 49.0, 49.0) };
        let waist = MarkedLine { below: Some("bust".into()), at: at(8.0, 8.0, 7.75, 8.25) };
        let halving = |line: &str, across: f64, off: f64| Halving {
            line: line.into(),
            across: across * INCH,
            off: Some(off * INCH),
        };
        let marking = FormMarking {
            tape_width: Some(INCH / 2.0),
            bridged: Some(true),
            centre: vec![
                halving("bust", 19.5, 0.0),
                halving("waist", 14.25, -0.0625),
                halving("hip", 19.25, 0.0),
            ],
        };
        let levels = vec![("bust".into(), bust), ("waist".into(), waist)];
        let form = FormRow { id: 0, name: name.into(), figures, levels, marking, revision: 0 };
        self.store.save_form(&form, self.once).await?;
        Ok(())
    }
}
