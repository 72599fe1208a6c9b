//! The demo house: a small workroom that dresses the players of an amateur orchestra. All invented.

mod draping;
mod fitting;
mod library;
mod measuring;
mod orchestra;
mod photograph;
mod skirt;
mod trousers;

pub use orchestra::seed_orchestra;

use chrono::{Days, NaiveDate, TimeDelta, Utc};
use yardwand_core::alter::{Recipe, make};
use yardwand_core::body::{Body, catalogue, measurement_set};
use yardwand_core::compare::{BlockSize, PlanChanges, plan};
use yardwand_core::draft::{Method, draft};
use yardwand_core::ease::ease_set;
use yardwand_core::fitting::HouseCalendar;
use yardwand_core::pattern::Pattern;
use yardwand_core::{INCH, Length, Style, Unit};
use yardwand_store::{
    Backdated, House, How, Measuring, NewBlock, NewClient, NewConsent, NewOrder, NewPattern, NewReading,
    NewSession, NewVersion, Once, Role, Store,
};

/// The demo's sign-in.
pub const DEMO_EMAIL: &str = "marit@workroom.example";
/// Its password.
pub const DEMO_PASSWORD: &str = "chalk and ink";

type Seeded<T = ()> = Result<T, Box<dyn std::error::Error + Send + Sync>>;

const STYLE: Style = Style::EIGHTHS;

/// Fills an empty house with the demo. A house with people in it is left alone.
///
/// # Errors
///
/// What the store says.
pub async fn seed_demo(store: &Store) -> Seeded {
    if store.person_by_email(DEMO_EMAIL).await?.is_some() {
        return Ok(());
    }
    let owner = store
        .add_person("Marit Holm", DEMO_EMAIL, &crate::hash_password(DEMO_PASSWORD)?, Role::Owner)
        .await?;
    let hash = crate::hash_password("tape and pins")?;
    store.add_person("Ines Calder", "ines@workroom.example", &hash, Role::Fitter).await?;
    store.add_person("Guest", "guest@workroom.example", &hash, Role::Reader).await?;
    let house = House {
        name: "Holm & Daughters".into(),
        style: STYLE,
        ease_set: "standard".into(),
        measuring: Measuring::default(),
        calendar: HouseCalendar::default(),
        shows_stories: true,
        revision: 0,
    };
    store.change_house(&house, owner).await?;
    let seeder = Seeder { store, once: Once::by(owner), sizes: house_sizes()?, master: 0 };
    let master = seeder.house_master().await?;
    let seeder = Seeder { master, ..seeder };
    seeder.half_measured().await?;
    seeder.at_compare().await?;
    seeder.at_the_cutting_table().await?;
    seeder.toile_to_fit().await?;
    seeder.second_round().await?;
    seeder.finished().await?;
    seeder.dates().await?;
    seeder.library().await?;
    seeder.measuring_book().await
}

/// The house figure of a size: `steps` sizes above the middle one, 4 cm of bust a step.
fn house_figure(steps: f64) -> Body {
    let bust = 920.0 + 40.0 * steps;
    [
        ("neck_base_girth", 370.0 + 6.0 * steps),
        ("shoulder_length", 125.0 + 1.5 * steps),
        ("shoulder_slope", 41.0),
        ("across_front", 328.0 + 9.0 * steps),
        ("across_back", 348.0 + 8.0 * steps),
        ("bust_girth", bust),
        ("upper_bust_girth", bust - 50.8),
        ("waist_girth", 725.0 + 41.0 * steps),
        ("bust_span", 188.0 + 8.0 * steps),
        ("snp_to_bust_point", 266.0 + 6.0 * steps),
        ("snp_to_waist_front", 431.0 + 6.0 * steps),
        ("snp_to_waist_back", 419.0 + 3.0 * steps),
        ("nape_to_waist_back", 400.0 + 3.0 * steps),
        ("armhole_depth", 190.0 + 4.0 * steps),
        ("side_length", 190.0 - 0.5 * steps),
    ]
    .into_iter()
    .collect()
}

/// The house's method with its usual ease for a figure.
fn method(figure: &Body) -> Method {
    let method = Method::usual(STYLE.unit());
    ease_set("standard", STYLE.unit()).map_or(method, |set| method.with_ease(set, figure))
}

fn house_sizes() -> Seeded<Vec<BlockSize>> {
    let labels = ["8", "10", "12", "14", "16", "18", "20"];
    labels
        .iter()
        .zip(-2_i32..)
        .map(|(label, steps)| {
            let figure = house_figure(f64::from(steps));
            let pattern = draft(&figure, &method(&figure), STYLE)?.pattern;
            Ok(BlockSize::drawn(label, figure, pattern))
        })
        .collect()
}

/// A player: a house figure with her own differences, in inches.
fn player(steps: f64, own: &[(&str, f64)]) -> Body {
    let figure = house_figure(steps);
    let figure = own.iter().fold(figure, |body, (code, inches)| {
        let mm = body.get(code).unwrap_or_default() + inches * INCH;
        body.with(code, mm)
    });
    with_shoulder_width(figure)
}

/// With the width over the nape between the same two shoulder points.
fn with_shoulder_width(figure: Body) -> Body {
    let neck = figure.get("neck_base_girth").unwrap_or_default();
    let shoulder = figure.get("shoulder_length").unwrap_or_default();
    let slope = figure.get("shoulder_slope").unwrap_or_default();
    let half = neck / 5.0 - 3.0 + (shoulder * shoulder - slope * slope).sqrt();
    figure.with("shoulder_width", half * 2.0)
}

fn drawn_of(size: &BlockSize) -> Seeded<&Pattern> {
    Ok(size.pattern().ok_or("a demo size is drawn")?)
}

struct Seeder<'a> {
    store: &'a Store,
    once: Once<'a>,
    sizes: Vec<BlockSize>,
    master: u64,
}

#[derive(Clone, Copy)]
struct Taken {
    client: u64,
    order: u64,
    /// Code of the set it is measured with.
    set: &'static str,
}

fn ago(days: i64) -> chrono::DateTime<Utc> {
    Utc::now() - TimeDelta::days(days)
}

fn day_from_now(days: u64) -> NaiveDate {
    Utc::now().date_naive() + Days::new(days)
}

impl Seeder<'_> {
    async fn house_master(&self) -> Seeded<u64> {
        let block = NewBlock {
            name: "House master, bodice".into(),
            client_id: None,
            how: How::Drafted,
            told: "Sizes of the house figure.".into(),
            parent_id: None,
            method: Some(method(&house_figure(0.0))),
            ease_set: "standard".into(),
            why: "Drafted by the direct method from the house figure, sizes 8 to 20.".into(),
            sizes: self.sizes.clone(),
        };
        Ok(self.store.add_block(&block, self.once).await?)
    }

    async fn client(&self, name: &str, contact: &str, notes: &str, days: i64) -> Seeded<u64> {
        let consent = NewConsent {
            given_on: ago(days).date_naive(),
            purpose: "Figures and patterns, to dress her for the orchestra.".into(),
            review_on: Some(day_from_now(300)),
        };
        let client = NewClient {
            name: name.into(),
            contact: contact.into(),
            notes: notes.into(),
            consent: Some(consent),
        };
        Ok(self.store.add_client(&client, self.once).await?)
    }

    async fn order(&self, client: u64, garment: &str, wanted_in: u64, days: i64) -> Seeded<Taken> {
        self.order_of(client, garment, "bodice_direct", wanted_in, days).await
    }

    /// An order that is measured with this set.
    async fn order_of(
        &self,
        client: u64,
        garment: &str,
        set: &str,
        wanted_in: u64,
        days: i64,
    ) -> Seeded<Taken> {
        let set = measurement_set(set).ok_or("no such set")?;
        let order = NewOrder {
            client_id: client,
            garment: garment.into(),
            set_code: set.code.clone(),
            set_name: set.name.clone(),
            set_codes: set.codes.clone(),
            wanted_on: Some(day_from_now(wanted_in)),
            toiles: 2,
        };
        let order = self.store.add_order(&order, self.once).await?;
        self.store.backdate(Backdated::Order(order), ago(days)).await?;
        Ok(Taken { client, order, set: set.code.as_str() })
    }

    /// Takes the first `count` readings of the order's set, to the nearest eighth, as a tape gives them.
    async fn measure(&self, taken: Taken, body: &Body, count: usize, days: i64) -> Seeded<u64> {
        let set = measurement_set(taken.set).ok_or("no such set")?;
        let codes = &set.codes;
        let new = NewSession {
            client: taken.client,
            order: Some(taken.order),
            set_code: &set.code,
            set_name: &set.name,
            codes,
            unit: Unit::Inch,
        };
        let session = self.store.open_session(new, self.once).await?;
        for code in codes.iter().take(count) {
            let Some(mm) = body.get(code) else { continue };
            let entered = Length::read(&STYLE.write(Length::from_mm(mm)), Unit::Inch)?;
            let reading = NewReading::plain(code, entered);
            self.store.record(session, &reading, self.once).await?;
        }
        if count >= codes.len() {
            self.store.close_session(session, "Marit Holm", self.once).await?;
        }
        self.store.backdate(Backdated::Session(session), ago(days)).await?;
        Ok(session)
    }

    fn size(&self, label: &str) -> Seeded<&BlockSize> {
        Ok(self.sizes.iter().find(|size| size.label == label).ok_or("no such size in the demo")?)
    }

    /// Begins a pattern from a size with the plan's own recipe.
    async fn pattern(&self, order: u64, body: &Body, label: &str) -> Seeded<(u64, Recipe)> {
        let size = self.size(label)?;
        let ease = ease_set("standard", STYLE.unit()).ok_or("no standard ease")?;
        let recipe = plan(body, size, ease, &PlanChanges::default(), STYLE)?.recipe();
        Ok((self.pattern_with(order, label, &recipe).await?, recipe))
    }

    /// Begins a pattern from a size with this recipe.
    async fn pattern_with(&self, order: u64, label: &str, recipe: &Recipe) -> Seeded<u64> {
        let block = drawn_of(self.size(label)?)?;
        let name = format!("House master, bodice, size {label}, version 1");
        let new = NewPattern { block_id: self.master, block_name: &name, block, recipe };
        Ok(self.store.begin_pattern(order, new, false, self.once).await?)
    }

    async fn freeze(&self, pattern: u64, label: &str, recipe: &Recipe, why: &str, days: i64) -> Seeded<u64> {
        let geometry = make(drawn_of(self.size(label)?)?, recipe, STYLE).pattern;
        let version = NewVersion { recipe: recipe.clone(), pattern: geometry, why: why.into() };
        let id = self.store.add_version(pattern, &version, self.once).await?;
        self.store.backdate(Backdated::Version(id), ago(days)).await?;
        Ok(id)
    }

    async fn half_measured(&self) -> Seeded {
        let notes = "First violin. Bows with the right arm lifted: reach across the back.";
        let client = self.client("Agnes Tallow", "agnes@orchestra.example", notes, 2).await?;
        let taken = self.order(client, "Concert dress", 75, 2).await?;
        let body = player(0.6, &[("across_back", 0.5), ("shoulder_slope", 0.25)]);
        self.measure(taken, &body, 7, 0).await?;
        Ok(())
    }

    async fn at_compare(&self) -> Seeded {
        let notes = "Oboe. Deep breaths: nothing tight at the under-bust.";
        let client = self.client("Bettina Corr", "020 555 0142", notes, 6).await?;
        let taken = self.order(client, "Black wool dress", 60, 6).await?;
        let body = player(
            0.0,
            &[
                ("bust_girth", 2.5),
                ("bust_span", 0.5),
                ("snp_to_bust_point", 0.5),
                ("snp_to_waist_front", 1.0),
                ("shoulder_length", 0.25),
                ("waist_girth", 0.75),
            ],
        );
        self.measure(taken, &body, catalogue().len(), 4).await?;
        Ok(())
    }

    async fn at_the_cutting_table(&self) -> Seeded {
        let notes = "Viola. Chin rest on the left: keep the left shoulder smooth.";
        let client = self.client("Edda Mårtens", "edda@orchestra.example", notes, 12).await?;
        let taken = self.order(client, "Velvet jacket", 48, 12).await?;
        let body = player(
            1.0,
            &[
                ("bust_girth", 2.0),
                ("bust_span", 0.375),
                ("snp_to_waist_front", 0.75),
                ("shoulder_length", 0.375),
            ],
        );
        self.measure(taken, &body, catalogue().len(), 10).await?;
        self.pattern(taken.order, &body, "14").await?;
        Ok(())
    }

    async fn toile_to_fit(&self) -> Seeded {
        let notes = "Horn. Sits to play; likes a high neckline.";
        let client = self.client("Filippa Roux", "filippa@orchestra.example", notes, 20).await?;
        let taken = self.order(client, "Tail coat bodice", 40, 20).await?;
        let body =
            player(-1.0, &[("bust_girth", 1.5), ("snp_to_waist_front", 0.5), ("shoulder_length", -0.25)]);
        self.measure(taken, &body, catalogue().len(), 18).await?;
        let (pattern, recipe) = self.pattern(taken.order, &body, "10").await?;
        self.freeze(pattern, "10", &recipe, "First toile.", 9).await?;
        Ok(())
    }
}
