//! The whole orchestra beside the hand-made stories: forty players of every build, three years of sessions with changes
//! and a few real mistakes, their garments in every stage. Drawn by a seeded generator: the same players every time, and
//! nobody among them is real.

use chrono::{Days, Utc};
use fastrand::Rng;
use yardwand_core::alter::{Amounts, Decided, Recipe, make};
use yardwand_core::body::{Body, Measurement, catalogue, measurement_set};
use yardwand_core::compare::{BlockSize, PlanChanges, Wish, plan, wishes};
use yardwand_core::ease::ease_set;
use yardwand_core::fitting::{Decision, Mark, Observation, ObservationKind, PlannedVisit, Visit, VisitKind};
use yardwand_core::{INCH, Length, Unit};
use yardwand_store::{
    Backdated, BlockSummary, NewClient, NewConsent, NewPattern, NewPhotograph, NewReading, NewSession,
    NewVersion, Once, OrderPlan, Orders, PutAway, Role, Store,
};

use super::photograph::toile_on_a_stand;
use super::{
    DEMO_EMAIL, STYLE, Seeded, Seeder, Taken, ago, day_from_now, house_figure, house_sizes,
    with_shoulder_width,
};
use crate::figures::profile_of_client;
use crate::picture::{Kept, taken_in};

/// What the generator begins with: another number is another orchestra.
const SEED: u64 = 2026;

/// Name and instrument.
const PLAYERS: [(&str, &str); 40] = [
    ("Alma Reyne", "First violin"),
    ("Beatrix Oduya", "First violin"),
    ("Cosima Hale", "First violin"),
    ("Dagny Solvang", "First violin"),
    ("Elspeth Quill", "First violin"),
    ("Fenna Brouwer", "Second violin"),
    ("Greta Lindqvist", "Second violin"),
    ("Hedda Amsel", "Second violin"),
    ("Imke Tornow", "Second violin"),
    ("Jorun Vaage", "Second violin"),
    ("Katarina Zell", "Viola"),
    ("Leonie Marchbank", "Viola"),
    ("Mirela Costin", "Viola"),
    ("Noor Haddad", "Viola"),
    ("Odile Ferrant", "Cello"),
    ("Petra Kowal", "Cello"),
    ("Quirina Maes", "Cello"),
    ("Rosalind Abara", "Cello"),
    ("Signe Thorsen", "Double bass"),
    ("Tamsin Wray", "Double bass"),
    ("Ulrike Brandt", "Double bass"),
    ("Valeria Ponte", "Flute"),
    ("Wilhelmine Roth", "Flute"),
    ("Xenia Doran", "Oboe"),
    ("Ylva Nordin", "Oboe"),
    ("Zsofia Balint", "Clarinet"),
    ("Adaeze Nwosu", "Clarinet"),
    ("Birgit Falk", "Bassoon"),
    ("Carys Penrose", "Bassoon"),
    ("Delphine Aubry", "Horn"),
    ("Emeline Starck", "Horn"),
    ("Frauke Jessen", "Horn"),
    ("Gwendolyn Ash", "Trumpet"),
    ("Henrike Moll", "Trumpet"),
    ("Isaura Mendes", "Trombone"),
    ("Jutta Reimer", "Trombone"),
    ("Kirsten Bloom", "Timpani"),
    ("Lavinia Crane", "Percussion"),
    ("Maren Holt", "Harp"),
    ("Niamh Devlin", "Piano"),
];

const GARMENTS: [&str; 8] = [
    "Concert dress",
    "Black blouse",
    "Velvet jacket",
    "Rehearsal dress",
    "Summer dress",
    "Tail coat bodice",
    "Gala bodice",
    "Long evening dress",
];

/// Where a garment of the orchestra stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Stands {
    Measure,
    Compare,
    Alter,
    Toile,
    Fit,
    Cut,
    HandedOver,
    Archived,
    Cancelled,
}

/// What most garments of the players come to, in turn; every stage is there.
const STAGES: [Stands; 12] = [
    Stands::HandedOver,
    Stands::Fit,
    Stands::Toile,
    Stands::HandedOver,
    Stands::Compare,
    Stands::Archived,
    Stands::Alter,
    Stands::HandedOver,
    Stands::Cut,
    Stands::Measure,
    Stands::Archived,
    Stands::Cancelled,
];

/// Fills the demo with the whole orchestra. A house that has one is left alone.
///
/// # Errors
///
/// What the store says.
pub async fn seed_orchestra(store: &Store) -> Seeded {
    let Some((owner, _)) = store.person_by_email(DEMO_EMAIL).await? else {
        return Err("the demo house is not there: seed it first".into());
    };
    if store.person_by_email(CUTTER).await?.is_some() {
        return Ok(());
    }
    let hash = crate::hash_password("tape and pins")?;
    let blocks = store.blocks(None).await?;
    let master = blocks.iter().find(|block| block.name == "House master, bodice").ok_or("no house master")?;
    let seeder = Seeder { store, once: Once::by(owner.id), sizes: house_sizes()?, master: master.id };
    let mut orchestra = Orchestra { seeder, rng: Rng::with_seed(SEED), made: 0 };
    for (index, (name, instrument)) in PLAYERS.iter().enumerate() {
        orchestra.player(index, name, instrument).await?;
    }
    orchestra.late().await?;
    orchestra.long_dress().await?;
    orchestra.deep_backed_blouse().await?;
    orchestra.gathered_dress().await?;
    orchestra.laced_bodice().await?;
    let violist = orchestra.her("Katarina Zell").await?;
    orchestra.seeder.straight_skirt(violist, "Katarina Zell").await?;
    let harpist = orchestra.her("Maren Holt").await?;
    orchestra.seeder.concert_trousers(harpist).await?;
    orchestra.loose_bodice().await?;
    orchestra.mistakes().await?;
    orchestra.seeder.draped_bodice().await?;
    orchestra.seeder.dates().await?;
    // Last of all: who is there says that all of it is.
    store.add_person("Runa Voss", CUTTER, &hash, Role::Cutter).await?;
    store.add_person("Pim Aldous", "pim@workroom.example", &hash, Role::Assistant).await?;
    Ok(())
}

const CUTTER: &str = "runa@workroom.example";

struct Orchestra<'a> {
    seeder: Seeder<'a>,
    rng: Rng,
    /// Garments so far.
    made: usize,
}

/// A garment that is made to what a player wishes, from size 12 of a master.
struct Wished {
    client: &'static str,
    garment: &'static str,
    master: &'static str,
    /// Code of the set she is measured by.
    set: &'static str,
    /// Readings her wish wants besides those of the set.
    besides: &'static [&'static str],
    /// The ease it is made with, by its code.
    ease: &'static str,
    /// Lines of the plan that she leaves out.
    left_out: &'static [&'static str],
    /// What her card wishes of another garment, by its step.
    of_another: &'static [&'static str],
    /// How its edges are finished.
    finished: &'static [Finished],
    /// In how many days it is wanted.
    days: u64,
}

/// How an edge is finished: the step, the edge where it is told, and the width in inches.
struct Finished(&'static str, Option<&'static str>, f64);

/// A garment with the house's usual ease, of which nothing more is said.
const MADE_TO_WISH: Wished = Wished {
    client: "",
    garment: "",
    master: "",
    set: "",
    besides: &[],
    ease: "standard",
    left_out: &[],
    of_another: &[],
    finished: &[],
    days: 0,
};

impl Orchestra<'_> {
    /// Between two figures.
    fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.rng.f64()
    }

    /// A body of any build: a frame, a cup of its own, a height, and what makes her herself.
    fn body(&mut self, index: usize) -> Body {
        // From the smallest to the largest and not in order: 780 to 1360 mm round the bust, 1480 to 1900 tall.
        let share = (index * 17 % PLAYERS.len()) as f64 / (PLAYERS.len() - 1) as f64;
        let tall = (index * 23 % PLAYERS.len()) as f64 / (PLAYERS.len() - 1) as f64;
        let bust = 780.0 + share * 580.0;
        let height = 1480.0 + tall * 420.0;
        let cup = self.between(-10.0, 75.0) * (0.5 + share);
        let frame = house_figure((bust - cup - 920.0) / 40.0);
        let longer = height / 1660.0;
        const LENGTHS: [&str; 7] = [
            "snp_to_bust_point",
            "snp_to_waist_front",
            "snp_to_waist_back",
            "nape_to_waist_back",
            "armhole_depth",
            "side_length",
            "shoulder_slope",
        ];
        let mut body = frame.clone();
        for code in LENGTHS {
            body = body.with(code, frame.get(code).unwrap_or_default() * longer);
        }
        let own = |code: &str, by: f64, body: Body| {
            let mm = body.get(code).unwrap_or_default() + by;
            body.with(code, mm)
        };
        let fuller = cup.max(0.0);
        body = body.with("bust_girth", bust).with("height", height);
        body = own("snp_to_waist_front", fuller * 0.3, body);
        body = own("snp_to_bust_point", fuller * 0.15, body);
        body = own("bust_span", fuller * 0.12, body);
        let waist = self.between(-25.0, 45.0);
        body = own("waist_girth", waist, body);
        let shoulder = self.between(-8.0, 8.0);
        body = own("shoulder_length", shoulder, body);
        // A rounded back is longer behind.
        if index % 6 == 2 {
            let rounded = self.between(8.0, 18.0);
            body = own("nape_to_waist_back", rounded, body);
            body = own("snp_to_waist_back", rounded, body);
        }
        with_shoulder_width(body)
    }

    async fn player(&mut self, index: usize, name: &str, instrument: &str) -> Seeded {
        let body = self.body(index);
        let entered = 60 + self.rng.i64(0..1000);
        let client = self.entry(index, name, instrument, entered).await?;
        // Measured before anything of hers is in hand now: once a year, by the same tape.
        for year in 1..=entered / 365 {
            let days = entered - 330 * (year - 1);
            let figures = self.drifted(&body, days);
            self.session(client, &figures, days).await?;
        }
        let garments = 1 + usize::from(index.is_multiple_of(2));
        for turn in 0..garments {
            let stands = STAGES[self.made % STAGES.len()];
            self.made += 1;
            let days = if turn == 0 { entered } else { entered / 3 };
            self.garment(client, &body, stands, days.max(20)).await?;
        }
        Ok(())
    }

    /// Her entry: most agreed; one did not, and for a child her guardian did.
    async fn entry(&mut self, index: usize, name: &str, instrument: &str, days: i64) -> Seeded<u64> {
        let child = index == 13;
        let consent = (index != 27).then(|| NewConsent {
            given_on: ago(days).date_naive(),
            purpose: if child {
                "Figures and patterns, to dress her for the orchestra; her mother agreed for her.".into()
            } else {
                "Figures and patterns, to dress her for the orchestra.".into()
            },
            review_on: Some(day_from_now(30 + self.rng.u64(0..500))),
        });
        let notes = match (child, index % 6) {
            (true, _) => format!("{instrument}. Eleven years old: her mother comes along and decides."),
            (_, 2) => format!("{instrument}. Stands with a rounded back; a soft collar likes her."),
            (_, 4) => format!("{instrument}. Lower right shoulder."),
            _ => format!("{instrument}."),
        };
        let first = name.split(' ').next().unwrap_or(name).to_lowercase();
        let contact = if index.is_multiple_of(3) {
            format!("020 7946 0{:03}", 100 + index)
        } else {
            format!("{first}@players.example")
        };
        let client = NewClient { name: name.into(), contact, notes, consent };
        Ok(self.seeder.store.add_client(&client, self.seeder.once).await?)
    }

    /// One garment with the session it was measured in, as far as it has come.
    async fn garment(&mut self, client: u64, body: &Body, stands: Stands, days: i64) -> Seeded {
        let seeder = &self.seeder;
        let garment = GARMENTS[self.made % GARMENTS.len()];
        let in_hand = !matches!(stands, Stands::HandedOver | Stands::Archived | Stands::Cancelled);
        // What is in hand was begun lately.
        let begun = if in_hand { days.min(45) } else { days };
        let wanted = if in_hand { 14 + self.rng.u64(0..90) } else { 0 };
        let taken = seeder.order(client, garment, wanted, begun).await?;
        let count = if stands == Stands::Measure { 6 } else { usize::MAX };
        let figures = self.drifted(body, days);
        self.seeder.measure(taken, &figures, count, (begun - 2).max(0)).await?;
        if stands == Stands::Measure || stands == Stands::Compare {
            return Ok(());
        }
        if stands == Stands::Cancelled {
            let revision = self.seeder.store.order(taken.order).await?.order.revision;
            let by = self.seeder.once.person;
            return Ok(self
                .seeder
                .store
                .put_away(taken.order, Some(PutAway::Cancelled), revision, by)
                .await?);
        }
        self.cut(taken, &figures, stands, begun).await
    }

    /// The body as it was so many days ago: people change.
    fn drifted(&mut self, body: &Body, days: i64) -> Body {
        let years = days as f64 / 365.0;
        let by = self.between(-12.0, 8.0) * years;
        ["bust_girth", "upper_bust_girth", "waist_girth"].into_iter().fold(body.clone(), |body, code| {
            let mm = body.get(code).unwrap_or_default() + by;
            body.with(code, mm)
        })
    }

    /// The size of the house that a body is nearest to by the upper bust.
    fn nearest(&self, body: &Body) -> Seeded<&BlockSize> {
        let upper = body.get("upper_bust_girth").unwrap_or_default();
        let off = |size: &&BlockSize| (size.figure.get("upper_bust_girth").unwrap_or_default() - upper).abs();
        let nearest = self.seeder.sizes.iter().min_by(|a, b| off(a).total_cmp(&off(b)));
        Ok(nearest.ok_or("the house has no size")?)
    }

    /// The pattern, its versions and rounds.
    async fn cut(&mut self, taken: Taken, body: &Body, stands: Stands, days: i64) -> Seeded {
        let label = self.nearest(body)?.label.clone();
        let recipe = self.recipe(body)?;
        let seeder = &self.seeder;
        let pattern = seeder.pattern_with(taken.order, &label, &recipe).await?;
        if stands == Stands::Alter {
            return Ok(());
        }
        let version = seeder.freeze(pattern, &label, &recipe, "First toile.", (days - 6).max(1)).await?;
        if stands == Stands::Toile {
            return Ok(());
        }
        let round = seeder.round(taken.order, version, "Her concert foundation, low heels.").await?;
        let fitted = (days - 14).max(0);
        let places = [
            (ObservationKind::Drag, "sleeve cap"),
            (ObservationKind::Fold, "front waist"),
            (ObservationKind::Strain, "bust"),
            (ObservationKind::Gape, "armhole front"),
        ];
        let (kind, place) = places[self.made % places.len()];
        let seen = Observation { note: String::new(), ..Observation::of(kind, place) };
        if stands == Stands::Fit {
            let seen = seeder.see(round, seen, fitted, None).await?;
            if self.made.is_multiple_of(2) {
                let read = taken_in(&toile_on_a_stand()?, Kept::ToLookAt)?;
                let photograph = NewPhotograph {
                    observation: Some(seen),
                    image: read.bytes,
                    width: read.width,
                    height: read.height,
                    taken_at: Utc::now(),
                };
                seeder.store.add_photograph(round, &photograph, seeder.once).await?;
            }
            return Ok(seeder.store.backdate(Backdated::Round(round), ago(fitted)).await?);
        }
        seeder.see(round, seen, fitted, Some(Decision::Watch)).await?;
        // What the pins made of the plan: the shoulder came out a little longer than planned, the bust as planned.
        let ended = self.ended(&recipe);
        let block = super::drawn_of(self.seeder.size(&label)?)?;
        let ended =
            if make(block, &ended, STYLE).refused().next().is_some() { recipe.clone() } else { ended };
        let seeder = &self.seeder;
        let made = (ended != recipe).then(|| -> Seeded<NewVersion> {
            let block = super::drawn_of(seeder.size(&label)?)?;
            let pattern = make(block, &ended, STYLE).pattern;
            Ok(NewVersion { pattern, recipe: ended.clone(), why: "Decided in fitting round 1.".into() })
        });
        let made = made.transpose()?;
        let revision = seeder.store.pattern(pattern).await?.revision;
        let seen = seeder.seen(round, revision).await?;
        seeder.store.close_round(round, pattern, seen, made.as_ref(), seeder.once).await?;
        seeder.store.backdate(Backdated::Round(round), ago(fitted)).await?;
        if stands == Stands::Cut {
            let newest = seeder.store.versions(pattern).await?;
            let newest = newest.first().ok_or("a version was frozen")?.id;
            let second = seeder.round(taken.order, newest, "The same.").await?;
            for row in seeder.store.observations(taken.order).await? {
                seeder.store.mark(second, row.id, Mark::Gone, None, seeder.once).await?;
            }
            let seen = seeder.seen(second, seeder.store.pattern(pattern).await?.revision).await?;
            seeder.store.close_round(second, pattern, seen, None, seeder.once).await?;
            return Ok(seeder.store.backdate(Backdated::Round(second), ago(fitted / 2)).await?);
        }
        let by = seeder.once.person;
        let revision = seeder.store.order(taken.order).await?.order.revision;
        seeder.store.finish_order(taken.order, true, revision, by).await?;
        seeder.store.backdate(Backdated::Order(taken.order), ago(days)).await?;
        if stands == Stands::Archived {
            seeder.store.put_away(taken.order, Some(PutAway::Archived), revision + 1, by).await?;
        }
        Ok(())
    }

    /// The plan's own recipe; where a body is too far from any size of the house, what can be done of it.
    fn recipe(&self, body: &Body) -> Seeded<Recipe> {
        let size = self.nearest(body)?;
        let block = super::drawn_of(size)?;
        let ease = ease_set("standard", STYLE.unit()).ok_or("no standard ease")?;
        let Ok(planned) = plan(body, size, ease, &PlanChanges::default(), STYLE) else {
            return Ok(Recipe::default());
        };
        let mut recipe = planned.recipe();
        let refused: Vec<u32> = make(block, &recipe, STYLE).refused().map(|(step, _)| step.id).collect();
        recipe.steps.retain(|step| !refused.contains(&step.id));
        let left = make(block, &recipe, STYLE).refused().count();
        Ok(if left == 0 { recipe } else { Recipe::default() })
    }

    /// The recipe as the pins left it: a shoulder ends at about 1.25 times what was planned, a full bust as planned.
    fn ended(&mut self, recipe: &Recipe) -> Recipe {
        let mut ended = recipe.clone();
        for step in &mut ended.steps {
            let factor = match step.alteration.as_str() {
                "shoulder_length" => self.between(1.2, 1.3),
                "full_bust" => self.between(0.97, 1.03),
                "rounded_back" => self.between(1.25, 1.35),
                _ => continue,
            };
            let mm = step.amounts.amount() * factor;
            step.amounts = step.amounts.clone().with("amount", mm);
        }
        ended
    }

    /// Two players whose toile should have been on them by now.
    async fn late(&self) -> Seeded {
        let store = self.seeder.store;
        let today = Utc::now().date_naive();
        let waits = |facts: &yardwand_store::OrderFacts| {
            facts.facts.version == 1 && facts.facts.round == 0 && facts.order.client != "Filippa Roux"
        };
        let orders = store.orders(Orders::InHand).await?.into_iter().filter(waits).take(2);
        for (facts, days) in orders.zip([3, 8]) {
            let planned = |kind, number, on| {
                let visit = Visit { kind, number };
                PlannedVisit { visit, name: visit.name(), on, settled: false }
            };
            let wanted = facts.order.wanted_on.unwrap_or(today + Days::new(40));
            let visits = [
                planned(VisitKind::Toile, 1, today - Days::new(days)),
                planned(VisitKind::ClothFitting, 1, wanted - Days::new(9)),
                planned(VisitKind::Delivery, 1, wanted),
            ];
            store.set_visits(facts.order.id, &visits, facts.order.revision, self.seeder.once).await?;
        }
        Ok(())
    }

    /// What goes wrong in a real house, and what became of it.
    async fn mistakes(&mut self) -> Seeded {
        let store = self.seeder.store;
        let once = self.seeder.once;
        // The same woman entered twice, found and made one.
        let twice = NewClient {
            name: "A. Reyne".into(),
            contact: "020 7946 0811".into(),
            notes: "Rang about the gala.".into(),
            consent: None,
        };
        let other = store.add_client(&twice, once).await?;
        let alma = self.her("Alma Reyne").await?;
        let revision = store.client(alma).await?.revision;
        store.merge_clients(alma, other, revision, once).await?;
        // Another client's figures under a name, dropped with the reason.
        let greta = self.her("Greta Lindqvist").await?;
        let wrong = self.session(greta, &house_figure(5.0), 40).await?;
        store.drop_session(wrong, "These are another player's figures", once).await?;
        // A reading written down wrongly, corrected after it was signed.
        let petra = self.her("Petra Kowal").await?;
        let readings = store.latest_readings(petra, None).await?;
        if let Some(waist) = readings.iter().find(|row| row.code == "waist_girth") {
            let mm = waist.entered.length.mm() + INCH;
            let entered = Length::read(&STYLE.write(Length::from_mm(mm)), Unit::Inch)?;
            store.correct(waist.id, &entered, "The inch was misread", None, once).await?;
        }
        // Something worth keeping that no fitting showed.
        let maren = self.her("Maren Holt").await?;
        let note =
            store.add_note(maren, "The harp leans on her right shoulder: no seam there.", once).await?;
        let read = taken_in(&toile_on_a_stand()?, Kept::ToLookAt)?;
        let photograph = NewPhotograph {
            observation: None,
            image: read.bytes,
            width: read.width,
            height: read.height,
            taken_at: Utc::now(),
        };
        store.add_note_photograph(note, &photograph, once).await?;
        Ok(())
    }

    /// A dress to the floor. In her concert shoes; she sits at the harp, so the hem has room.
    async fn long_dress(&self) -> Seeded {
        let wished = Wished {
            client: "Maren Holt",
            garment: "Floor-length gala dress",
            master: "Concert dress to the hip",
            set: "dress",
            days: 70,
            ..MADE_TO_WISH
        };
        let body = |figure: &Body| {
            let own = |code, inches| longer(figure, code, inches);
            with_shoulder_width(figure.clone())
                .with("waist_girth", own("waist_girth", 0.75))
                .with("snp_to_waist_front", own("snp_to_waist_front", 0.5))
                .with("full_length", own("snp_to_waist_front", 0.5) + own("waist_to_floor", -1.0))
        };
        self.made_to_her_wish(&wished, body, |_, amounts| amounts.with("out", 3.0 * INCH)).await
    }

    /// A sleeveless blouse with a deep back: she sits with it towards the hall, and the lights are warm. It ends just above the
    /// hip, to be worn over a skirt.
    async fn deep_backed_blouse(&self) -> Seeded {
        let wished = Wished {
            client: "Signe Thorsen",
            garment: "Sleeveless blouse, deep back",
            master: "Sleeveless dress to the hip",
            set: "dress",
            finished: &[Finished("facings", Some("neckline"), 2.25)],
            days: 40,
            ..MADE_TO_WISH
        };
        let body = |figure: &Body| {
            let own = |code, inches| longer(figure, code, inches);
            with_shoulder_width(figure.clone())
                .with("nape_to_waist_back", own("nape_to_waist_back", 0.25))
                .with("snp_to_waist_back", own("snp_to_waist_back", 0.25))
                .with("neck_width", 7.5 * INCH)
                .with("neck_depth_front", 5.0 * INCH)
                .with("neck_depth_back", 9.5 * INCH)
                .with("blouse_length", own("nape_to_waist_back", 0.25) + own("waist_to_hip", -1.25))
        };
        self.made_to_her_wish(&wished, body, |_, amounts| amounts).await
    }

    /// A short-sleeved dress with a seam under the bust, gathered above it, and a skirt to the knee from the waist down: nothing
    /// tight where she breathes over the keys.
    async fn gathered_dress(&self) -> Seeded {
        let wished = Wished {
            client: "Niamh Devlin",
            garment: "Short-sleeved dress, seam under the bust",
            master: "Bodice with sleeve",
            set: "bodice_direct",
            besides: &["snp_to_under_bust", "full_length", "hip_girth", "waist_to_hip", "waist_to_knee"],
            finished: &[Finished("collar_stand", None, 1.25)],
            days: 34,
            ..MADE_TO_WISH
        };
        let body = |figure: &Body| {
            let own = |code, inches| longer(figure, code, inches);
            with_shoulder_width(figure.clone())
                .with("waist_girth", own("waist_girth", 0.5))
                .with("snp_to_under_bust", own("snp_to_bust_point", 2.875))
                .with("hip_girth", own("bust_girth", 2.5))
                .with("waist_to_hip", 8.125 * INCH)
                .with("waist_to_knee", 23.0 * INCH)
                .with("full_length", own("snp_to_waist_front", 24.0))
                .with("sleeve_length", 8.0 * INCH)
        };
        self.made_to_her_wish(&wished, body, |step, amounts| match step {
            "joined_skirt" => amounts.with("out", 1.5 * INCH),
            _ => amounts,
        })
        .await
    }

    /// A strapless bodice laced behind over the drawn-in waist: she plays with bare shoulders.
    async fn laced_bodice(&self) -> Seeded {
        let wished = Wished {
            client: "Maren Holt",
            garment: "Strapless bodice, laced",
            master: "Bodice with sleeve",
            set: "corset",
            ease: "corset",
            // Nothing is worn across chest and back.
            left_out: &["back_width", "front_width"],
            // Her full length is the gala dress's.
            of_another: &["joined_skirt"],
            finished: &[Finished("facings", Some("upper_edge"), 2.0)],
            days: 48,
            ..MADE_TO_WISH
        };
        let body = |figure: &Body| {
            let own = |code, inches| longer(figure, code, inches);
            with_shoulder_width(figure.clone())
                .with("waist_girth_drawn_in", own("waist_girth", -2.5))
                .with("snp_to_under_bust", own("snp_to_bust_point", 2.875))
                .with("cup_height", 5.25 * INCH)
                .with("neckline_drop", 5.75 * INCH)
        };
        // Open behind by 2 1/4 in, to be drawn together by the laces.
        self.made_to_her_wish(&wished, body, |step, amounts| match step {
            "strapless_edge" => amounts.with("gap", 2.25 * INCH),
            _ => amounts,
        })
        .await
    }

    /// Sleeves in one with the body, to above the elbow: nothing is set in where she swings her arms over the drums.
    async fn loose_bodice(&self) -> Seeded {
        let wished = Wished {
            client: "Kirsten Bloom",
            garment: "Bodice, sleeves in one",
            master: "Bodice with sleeve",
            set: "bodice_direct",
            besides: &["upper_arm_girth", "hand_girth", "arm_length"],
            finished: &[Finished("facings", Some("neckline"), 2.25)],
            days: 55,
            ..MADE_TO_WISH
        };
        let body = |figure: &Body| {
            let own = |code, inches| longer(figure, code, inches);
            with_shoulder_width(figure.clone())
                .with("waist_girth", own("waist_girth", 0.5))
                .with("upper_arm_girth", own("upper_arm_girth", 0.25))
                .with("neck_width", 7.25 * INCH)
                .with("neck_depth_front", 4.5 * INCH)
                .with("neck_depth_back", 2.0 * INCH)
                .with("nape_to_sleeve_end", 20.5 * INCH)
        };
        self.made_to_her_wish(&wished, body, |_, amounts| amounts).await
    }

    /// What she wishes is a step of the recipe, after what fits the garment to her.
    async fn made_to_her_wish(
        &self,
        wished: &Wished,
        body: impl Fn(&Body) -> Body,
        settled: impl Fn(&str, Amounts) -> Amounts,
    ) -> Seeded {
        let (seeder, store) = (&self.seeder, self.seeder.store);
        let client = self.her(wished.client).await?;
        let masters = store.blocks(None).await?;
        let is_it = |block: &&BlockSummary| block.name == wished.master;
        let master = masters.iter().find(is_it).ok_or_else(|| format!("no {}", wished.master))?;
        let sizes = store.block(master.id).await?.sizes;
        let size = sizes.iter().find(|size| size.label == "12").ok_or("no size 12")?;
        let block = super::drawn_of(size)?;
        let body = body(&size.figure);
        let taken = seeder.order_of(client, wished.garment, wished.set, wished.days, 12).await?;
        seeder.measure(taken, &body, usize::MAX, 10).await?;
        let of_set = &measurement_set(wished.set).ok_or("no such set")?.codes;
        let is_wished = |row: &&Measurement| {
            let is_wanted = row.wish || wished.besides.contains(&row.code.as_str());
            is_wanted && body.get(&row.code).is_some() && !of_set.contains(&row.code)
        };
        let codes: Vec<String> = catalogue().iter().filter(is_wished).map(|row| row.code.clone()).collect();
        if !codes.is_empty() {
            self.session_of(client, ("chosen", "What she wishes", &codes), &body, 10).await?;
        }
        let ease = ease_set(wished.ease, STYLE.unit()).ok_or("no such ease")?;
        let off = wished.left_out.iter().map(|line| (*line).to_owned()).collect();
        let changes = PlanChanges { off, ..PlanChanges::default() };
        let fitted = plan(&body, size, ease, &changes, STYLE)?.recipe();
        let kept = OrderPlan {
            block_id: master.id,
            size: size.label.clone(),
            ease_set: ease.code.clone(),
            changes,
            revision: 0,
        };
        store.keep_plan(taken.order, &kept, seeder.once.person).await?;
        let profile = profile_of_client(store, client).await.map_err(|_| "her figures cannot be read")?;
        let mut recipe = fitted;
        // What her card wishes of another garment cannot be made of this one.
        let is_for_this =
            |wish: &Wish| wish.refused.is_none() && !wished.of_another.contains(&wish.alteration.as_str());
        for wish in wishes(&profile, block, ease, STYLE).into_iter().filter(is_for_this) {
            recipe.take(Decided::new(&wish.alteration, settled(&wish.alteration, wish.amounts), &wish.says));
        }
        for Finished(step, edge, inches) in wished.finished {
            let mut amounts = Amounts::of(inches * INCH);
            if let Some(edge) = edge {
                amounts = amounts.by("edge", edge);
            }
            recipe.take(Decided::new(step, amounts, "The edge is finished clean."));
        }
        let made = make(block, &recipe, STYLE);
        if let Some((step, why)) = made.refused().next() {
            return Err(format!("{}: {why}", step.alteration).into());
        }
        let name = format!("{}, size 12, version {}", master.name, master.version);
        let new = NewPattern { block_id: master.id, block_name: &name, block, recipe: &recipe };
        let pattern = store.begin_pattern(taken.order, new, false, seeder.once).await?;
        let version =
            NewVersion { recipe: recipe.clone(), pattern: made.pattern, why: "First toile.".into() };
        let version = store.add_version(pattern, &version, seeder.once).await?;
        Ok(store.backdate(Backdated::Version(version), ago(6)).await?)
    }

    async fn her(&self, name: &str) -> Seeded<u64> {
        let found = self.seeder.store.clients(name, true, None, 1).await?;
        Ok(found.first().ok_or_else(|| format!("{name} is not in the book"))?.id)
    }

    /// A session without a garment.
    async fn session(&self, client: u64, body: &Body, days: i64) -> Seeded<u64> {
        let set = measurement_set("bodice_direct").ok_or("no direct set")?;
        self.session_of(client, (&set.code, &set.name, &set.codes), body, days).await
    }

    /// The same of these readings.
    async fn session_of(
        &self,
        client: u64,
        (set_code, set_name, codes): (&str, &str, &[String]),
        body: &Body,
        days: i64,
    ) -> Seeded<u64> {
        let new = NewSession { client, order: None, set_code, set_name, codes, unit: Unit::Inch };
        let (store, once) = (self.seeder.store, self.seeder.once);
        let session = store.open_session(new, once).await?;
        for code in codes {
            let Some(mm) = body.get(code) else { continue };
            let entered = Length::read(&STYLE.write(Length::from_mm(mm)), Unit::Inch)?;
            store.record(session, &NewReading::plain(code, entered), once).await?;
        }
        store.close_session(session, "Marit Holm", once).await?;
        store.backdate(Backdated::Session(session), ago(days)).await?;
        Ok(session)
    }
}

/// A figure's reading and so many inches more.
fn longer(figure: &Body, code: &str, inches: f64) -> f64 {
    figure.get(code).unwrap_or_default() + inches * INCH
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn there_are_players_of_every_build_and_none_has_the_name_of_another() {
        let names: std::collections::HashSet<&str> = PLAYERS.iter().map(|(name, _)| *name).collect();
        assert_eq!(names.len(), PLAYERS.len());
        let builds: Vec<usize> = (0..PLAYERS.len()).map(|index| index * 17 % PLAYERS.len()).collect();
        let each: std::collections::HashSet<&usize> = builds.iter().collect();
        assert_eq!(each.len(), PLAYERS.len(), "every step of the range is somebody");
    }
}
