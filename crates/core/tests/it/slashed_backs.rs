//! A back that was slashed on her and lies flat, marked by a hand that is off by its usual spread: what is read of it and set in a
//! rounded back lies where she drew it, all along the line (alterations.md, section 2; drape.md, section 1).

use kurbo::{Affine, Point, Vec2};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, alteration, apply, make, rounded_back_as_slashed};
use yardwand_core::draft::{Direct, Method, draft};
use yardwand_core::drape::{Cross, Given, Marks, Run, Source, slashed_back};
use yardwand_core::pattern::{Pattern, Piece, Seam, WornSide};

use crate::common::{Chance, bodies};

const STYLE: Style = Style::EIGHTHS;

fn backs() -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { with_sleeve: false, direct, ..Method::default() };
    bodies(40, 8).iter().filter_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).collect()
}

/// A back as it comes off her: slashed from the centre to the armhole, opened, the centre drawn anew.
struct Toile {
    /// Where it was slashed, in the back's own frame.
    level: f64,
    nape: Point,
    marks: Marks,
}

impl Toile {
    /// How far in the drawn centre stands, at a share of the way from the slash to the nape.
    fn stands_in(&self, share: f64) -> f64 {
        self.nape.x * (0.35 * share + 0.65 * share * share)
    }

    fn of(back: &Piece, below: f64, opens: f64) -> Option<Self> {
        let nape = back.centre_top();
        let level = nape.y + below;
        let armhole = back.edges_of(Seam::Armhole).last()?;
        let hinge = armhole.curve.point_at(armhole.curve.crossing_level(level)?);
        let turn = Affine::rotate_about((opens / hinge.x).asin(), hinge);
        let mut toile = Self { level, nape: turn * nape, marks: Marks::default() };
        let waist = back.edges_of(Seam::CentreBack).next()?.curve.start();
        toile.marks.put(Cross::CentreWaist, waist);
        let down = |share: f64| Point::new(0.0, level + (waist.y - level) * share);
        toile.marks.put_dots(Run::CentreDots, [0.2, 0.4, 0.6, 0.8].map(down).to_vec());
        let along = [0.0, 0.35, 0.7].map(|share| Point::new(hinge.x * share, level));
        toile.marks.put_dots(Run::SlashLowerDots, along.to_vec());
        toile.marks.put_dots(Run::SlashUpperDots, along.map(|at| turn * at).to_vec());
        toile.marks.put(Cross::CentreTop, toile.nape);
        let drawn = |n: u32| {
            let share = f64::from(n) / 7.0;
            Point::new(toile.stands_in(share), level + (toile.nape.y - level) * share)
        };
        let drawn = (0..7).map(drawn).collect();
        toile.marks.put_dots(Run::DrawnCentreDots, drawn);
        Some(toile)
    }

    /// As a hand of this spread marks it, lying anyhow on the table.
    fn marked(&self, spread: f64, chance: &mut Chance) -> Marks {
        let lies = Affine::rotate(chance.between(-3.0, 3.0)) * Affine::translate((140.0, -60.0));
        let mut off = || Vec2::new(chance.about(spread), chance.about(spread));
        let mut marks = Marks::default();
        for (mark, at) in self.marks.points() {
            marks.put(mark, lies * (at + off()));
        }
        for (run, dots) in self.marks.runs() {
            // The straight centre was ruled before it was draped: within 0.6 (drape.md, its head).
            let share = if run == Run::CentreDots { 0.4 } else { 1.0 };
            marks.put_dots(run, dots.iter().map(|at| lies * (*at + off() * share)).collect());
        }
        marks
    }
}

#[test]
fn a_slashed_back_sets_the_rounded_back_as_it_was_drawn_on_her_all_along_the_line() {
    let mut chance = Chance::new(2026);
    let alter = alteration("rounded_back").unwrap();
    for (spread, most_typical, most) in [(0.0, 0.3, 0.8), (1.5, 2.0, 4.0)] {
        let (mut furthest, mut amounts_off, mut asked, mut tried) = (Vec::new(), Vec::new(), 0, 0);
        for block in backs() {
            let Some(back) = block.back() else { continue };
            for (below, opens) in [(85.0, 8.0), (105.0, 18.0)] {
                let Some(toile) = Toile::of(back, below, opens) else { continue };
                let marks = toile.marked(spread, &mut chance);
                let read = slashed_back(&Source::Grid { marks }, &Given::default(), &[]).unwrap();
                asked += usize::from(!read.asks.is_empty());
                let amounts = rounded_back_as_slashed(&read);
                let Ok(altered) = apply(alter, &block, &amounts, None, STYLE) else { continue };
                tried += 1;
                amounts_off.push((read.opens - opens).abs().max((read.below_nape - below).abs()));
                // Read from outside: every 5 mm up the sewn centre, held against what she drew.
                let centre = altered.pattern.back().unwrap().edges_of(Seam::CentreBack).next().unwrap();
                let (foot, length) = (centre.curve.start().y, centre.curve.length());
                let mut worst: f64 = 0.0;
                let mut along = 0.0;
                while along < length {
                    let at = centre.curve.point_at(along);
                    let share = (at.y - toile.level) / (toile.nape.y - toile.level);
                    if at.y < foot && (0.0..=1.0).contains(&share) {
                        worst = worst.max((at.x - toile.stands_in(share)).abs());
                    }
                    along += 5.0;
                }
                furthest.push(worst);
            }
        }
        assert!(tried > 40, "{tried}");
        let at = |values: &mut Vec<f64>, share: f64| {
            values.sort_by(f64::total_cmp);
            values[((values.len() - 1) as f64 * share) as usize]
        };
        println!(
            "slashed backs, hand {spread}: {tried}; amounts off by {:.2} (median) and {:.2} (p95), the line by {:.2} and {:.2}, {asked} asked",
            at(&mut amounts_off, 0.5),
            at(&mut amounts_off, 0.95),
            at(&mut furthest, 0.5),
            at(&mut furthest, 0.95)
        );
        assert!(at(&mut furthest, 0.5) < most_typical, "{}", at(&mut furthest, 0.5));
        assert!(at(&mut furthest, 0.95) < most, "{}", at(&mut furthest, 0.95));
        assert!(at(&mut amounts_off, 0.95) < (if spread == 0.0 { 0.06 } else { 6.0 }));
        assert!(asked * 20 <= tried, "{asked} of {tried} are asked without cause");
    }
}

/// On one side, and after other steps: the seam lies where it lies alone, and nothing else of the other side moves.
#[test]
fn a_slashed_back_is_the_same_on_one_side_and_in_either_order() {
    let (mut sides, mut orders) = (0, 0);
    for block in backs() {
        let back = block.back().unwrap();
        let toile = Toile::of(back, 100.0, 14.0).unwrap();
        let source = Source::Grid { marks: toile.marks.clone() };
        let amounts = rounded_back_as_slashed(&slashed_back(&source, &Given::default(), &[]).unwrap());
        let of = |steps: Vec<Decided>| {
            let mut recipe = Recipe::default();
            for step in steps {
                recipe.take(step);
            }
            let made = make(&block, &recipe, STYLE);
            made.is_whole().then_some(made.pattern)
        };
        let hers = || Decided::new("rounded_back", amounts.clone(), "as slashed");
        let Some(alone) = of(vec![hers()]) else { continue };
        let centre = |pattern: &Pattern| -> Vec<Point> {
            let edges: Vec<_> = pattern.back().unwrap().edges_of(Seam::CentreBack).collect();
            edges
                .iter()
                .flat_map(|edge| {
                    (0..=100).map(|n| edge.curve.point_at(edge.curve.length() * f64::from(n) / 100.0))
                })
                .collect()
        };
        let apart = |one: &[Point], other: &[Point]| {
            assert_eq!(one.len(), other.len());
            one.iter().zip(other).map(|(one, other)| one.distance(*other)).fold(0.0, f64::max)
        };
        let mut left = hers();
        left.side = Some(WornSide::Left);
        if let Some(one_sided) = of(vec![left]) {
            sides += 1;
            assert!(apart(&centre(&one_sided.worn_on(WornSide::Left)), &centre(&alone)) < 1e-6);
            assert!(apart(&centre(&one_sided.worn_on(WornSide::Right)), &centre(&block)) < 1e-6);
        }
        for (code, with) in [
            ("princess_line", Amounts::of(0.0).by("piece", "back")),
            ("sway_back", Amounts::of(6.0)),
            ("shoulder_slope", Amounts::of(6.0)),
        ] {
            let other = || Decided::new(code, with.clone(), "");
            let pair = [of(vec![hers(), other()]), of(vec![other(), hers()])];
            let [Some(before), Some(after)] = pair else { continue };
            orders += 1;
            let off = crate::common::furthest_apart(&before, &after);
            assert!(off < 0.02, "{code}: {off}");
        }
    }
    println!(
        "a slashed back on one side of {sides} blocks, in either order with another step {orders} times"
    );
    assert!(sides > 20 && orders > 60, "{sides} {orders}");
}

#[test]
fn a_slashed_back_makes_no_block_and_a_path_file_no_slashed_back() {
    use yardwand_core::drape::{DrapeInput, Material, transfer};
    let marks = Marks::default();
    let source = Source::Grid { marks: marks.clone() };
    let given = Given { material: Some(Material::Slashed), ..Given::default() };
    let input =
        DrapeInput { front: source.clone(), back: source, given: given.clone(), controls: Vec::new() };
    assert!(transfer(&input).unwrap_err().refuses.contains("makes no block"));
    let path = Source::Path { path: "M0 0L1 1".to_owned(), mm_per_unit: 1.0, clicks: marks };
    assert!(slashed_back(&path, &given, &[]).unwrap_err().refuses.contains("has no slash"));
}
