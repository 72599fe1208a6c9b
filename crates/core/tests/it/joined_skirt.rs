//! A skirt joined at the waist, on random bodies, on bodices that were parted, cut off and altered, before and after what changes
//! their waist (handbook: `wishes.md`, section 7).

use geo::Contains;

use crate::common::{Chance, bodies, furthest_apart, standard_ease};
use crate::outside::{corner, cutting_lines_stand_off, nothing_turned_red, part, polygon};
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress, read, wishing_body};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, alteration, apply, make, suits};
use yardwand_core::body::Body;
use yardwand_core::compare::wishes;
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    CheckCode, DartPlace, Garment, GarmentPart, Gather, Half, LevelName, Pattern, PatternMeasure, Piece,
    PieceKind, Seam, WornSide, check_pattern, measure, walk,
};

const STYLE: Style = Style::TENTHS;
const EXACT: f64 = 0.01;

fn drafted(body: &Body, kind: MethodKind, one_dart: bool) -> Option<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, one_dart, ..Direct::default() };
    Some(draft(body, &Method { kind, direct, with_sleeve: true, ..Method::default() }, STYLE).ok()?.pattern)
}

/// Length, hip and waist to hip of a body.
fn for_her(body: &Body, length: f64) -> Amounts {
    let of = |code| body.get(code).unwrap();
    Amounts::of(length).with("hip", of("hip_girth")).with("to_hip", of("waist_to_hip"))
}

fn joined(block: &Pattern, amounts: &Amounts) -> Result<Pattern, String> {
    let made = apply(alteration("joined_skirt").unwrap(), block, amounts, None, STYLE);
    made.map(|made| made.pattern).map_err(|error| error.to_string())
}

fn half_waists(pattern: &Pattern) -> [f64; 2] {
    [pattern.front_half().unwrap(), pattern.back_half().unwrap()].map(|half| half.sewn_length(Seam::Waist))
}

/// What must hold of every skirt that is joined: what was green stays green, it fits the bodice's waist front and back, its hip
/// and lengths are as they are asked for, its sides and corners meet, and its lines can be cut along.
fn hold(before: &Pattern, made: &Pattern, amounts: &Amounts, told: &str) {
    outlines_are_simple(made);
    made.validate().unwrap();
    nothing_turned_red(before, made, told);
    let checks = check_pattern(made, STYLE);
    for code in [CheckCode::SewnOn, CheckCode::WaistCorners, CheckCode::HemCorners] {
        assert!(checks.iter().any(|check| check.code == code && check.passed), "{told}: {code:?} {checks:?}");
    }
    let number = |code: &str| serde_json::to_value(amounts).unwrap()[code].as_f64();
    let worn: Vec<Pattern> = if made.is_sided() {
        WornSide::BOTH.map(|side| made.worn_on(side)).into()
    } else {
        vec![made.clone()]
    };
    for made in &worn {
        let (front, back) = made.joined_skirt_halves().unwrap();
        let [in_front, behind] = half_waists(made);
        for (half, waist) in [(&front, in_front), (&back, behind)] {
            let piece = half.whole().unwrap();
            let (outline, grain) = (polygon(piece), piece.grain);
            for at in [grain.0, grain.1] {
                assert!(
                    outline.contains(&geo::Point::new(at.x, at.y)),
                    "{told}: the grain line ends outside"
                );
            }
            let sewn = half.sewn_length(Seam::Waist);
            assert!((sewn - waist).abs() < 0.02, "{told}: the skirt's {sewn:.3} on {waist:.3}");
            let levels = &piece.level(LevelName::Hip).unwrap().points;
            let side = &piece.edges_of(Seam::Side).next().unwrap().curve;
            assert!((side.length() - amounts.amount()).abs() < EXACT, "{told}: {}", side.length());
            let to_hip = side.nearest(levels[1]);
            assert!((to_hip - number("to_hip").unwrap()).abs() < EXACT, "{told}: waist to hip {to_hip}");
        }
        let figures = measure(made);
        let hip = figures.get(PatternMeasure::Hip).unwrap();
        let asked = number("hip").unwrap() + number("ease").unwrap_or(40.0);
        assert!((hip - asked).abs() < EXACT, "{told}: hip {hip}");
        let [a, b] = [&front, &back].map(|half| half.whole().unwrap());
        for seam in [Seam::Waist, Seam::Side] {
            let both = corner(a, a.last_edge(seam).unwrap()) + corner(b, b.last_edge(seam).unwrap());
            assert!((both - 180.0).abs() < EXACT, "{told}: {both} after {seam:?}");
        }
    }
    cutting_lines_stand_off(made.pieces.iter().filter(|piece| piece.kind.is_joined_skirt()), told);
    for walked in walk(made) {
        let tolerance = if walked.one.is_joined_skirt() { 0.02 } else { 1.0 };
        assert!(walked.joins(tolerance), "{told}: {walked:?}");
    }
}

/// What parts a bodice, cuts it off or goes on into a sleeve, each for a bodice that ends at the waist.
fn begun() -> Vec<(&'static str, Recipe)> {
    let of = |code: &str, amounts: Amounts| Recipe::default().and(code, amounts, "");
    let behind = Amounts::default().by("piece", "back");
    vec![
        ("plain", Recipe::default()),
        ("under the bust", of("under_bust_seam", Amounts::of(65.0))),
        ("princess lines", of("princess_line", Amounts::of(4.0)).and("princess_line", behind, "")),
        ("strapless", of("strapless_edge", Amounts::of(115.0))),
        ("sleeves in one", of("cut_in_one", Amounts::of(600.0))),
        ("gathered", of("gather_dart", Amounts::of(1.0))),
    ]
}

#[test]
fn a_skirt_fits_the_waist_of_every_bodice() {
    let mut chance = Chance::new(83);
    let (mut tried, mut refused, mut below_its_dart) = (0, Vec::new(), 0);
    for body in bodies(60, 307) {
        let blocks = [
            drafted(&body, MethodKind::Direct, true),
            drafted(&body, MethodKind::Direct, false),
            drafted(&body, MethodKind::Proportional, false),
        ];
        for block in blocks.into_iter().flatten() {
            let (name, recipe) = { begun() }.swap_remove(chance.between(0.0, 5.999) as usize);
            let made = make(&block, &recipe, STYLE);
            if !made.is_whole() {
                continue;
            }
            let taken_in = chance.one_of(&["darts", "gathers"]);
            let length = chance.between(420.0, 1000.0).round();
            let out = chance.one_of(&[0.0, 0.12, -0.08]) * (length - 320.0);
            let amounts = for_her(&body, length)
                .with("ease", chance.between(20.0, 120.0).round())
                .with("out", out)
                .by("taken_in", taken_in);
            let told = format!("{name}, {amounts:?}");
            tried += 1;
            match joined(&made.pattern, &amounts) {
                Ok(with) => {
                    hold(&made.pattern, &with, &amounts, &told);
                    below_its_dart += usize::from(lies_below_the_dart(&with, &told));
                }
                Err(why) => refused.push(format!("{told}: {why}")),
            }
        }
    }
    assert!(tried > 120 && below_its_dart > 12, "{tried}, {below_its_dart}");
    assert!(refused.len() * 20 < tried, "{} of {tried}: {refused:#?}", refused.len());
}

/// The skirt's first dart lies below the bodice's, where both fronts have some: as far from the centre, sewn.
fn lies_below_the_dart(made: &Pattern, told: &str) -> bool {
    let (Some(bodice), Some((skirt, _))) = (made.front(), made.joined_skirt_halves()) else { return false };
    let skirt = skirt.whole().unwrap();
    let above: Vec<f64> = bodice.edges_of(Seam::Waist).map(|edge| edge.curve.length()).collect();
    let below: Vec<f64> = skirt.edges_of(Seam::Waist).map(|edge| edge.curve.length()).collect();
    let ([_, above], [below, _, ..]) = (above.as_slice(), below.as_slice()) else { return false };
    if bodice.dart(DartPlace::Waist).is_none() {
        return false;
    }
    assert!((above - below).abs() < 0.5, "{told}: {above:.2} and {below:.2} from the centre");
    true
}

#[test]
fn a_waist_that_changes_is_followed_by_the_darts() {
    let (body, plain) = (wishing_body(), Recipe::default());
    let block = bodice(&body).unwrap();
    let skirt = Decided::new("joined_skirt", for_her(&body, 590.0), "");
    let wider = || Decided::new("side_seams", Amounts::default().with("waist", 8.0), "");
    let take = |steps: Vec<Decided>| {
        let mut recipe = plain.clone();
        for step in steps {
            recipe.take(step);
        }
        make(&block, &recipe, STYLE)
    };
    let alone = take(vec![skirt.clone()]);
    let [first, after] = [vec![wider(), skirt.clone()], vec![skirt.clone(), wider()]].map(take);
    assert!(first.is_whole() && after.is_whole());
    assert_eq!(first.pattern, after.pattern, "the order they were decided in makes no difference");
    hold(&block, &after.pattern, &for_her(&body, 590.0), "wider");
    // The front's dart gives what its waist gained; the side stays where it was.
    let dart = |pattern: &Pattern| {
        let piece = part(pattern, GarmentPart::JoinedSkirtFront);
        let places = [DartPlace::Waist, DartPlace::WaistSide];
        let mouths = places.into_iter().filter_map(|place| piece.mouth(place));
        mouths.map(|(from, to)| from.distance(to)).sum::<f64>()
    };
    let gained = half_waists(&after.pattern)[0] - half_waists(&alone.pattern)[0];
    assert!(gained > 1.0, "{gained}");
    // A sixth of what half the waist is narrower goes into each side edge: so it gives a sixth of the whole gain.
    let whole: f64 =
        half_waists(&after.pattern).iter().sum::<f64>() - half_waists(&alone.pattern).iter().sum::<f64>();
    let gave = dart(&alone.pattern) - dart(&after.pattern);
    assert!((gave - (gained - whole / 6.0)).abs() < 0.05, "{gave} of {gained}, {whole}");
    // A step that is switched off leaves the skirt as it was.
    let mut recipe = plain.clone();
    recipe.take(wider());
    recipe.take(skirt);
    recipe.steps[0].on = false;
    let off = make(&block, &recipe, STYLE);
    assert_eq!(off.pattern, alone.pattern);
}

#[test]
fn left_and_right_have_the_skirt_that_fits_them() {
    for (index, body) in bodies(30, 41).iter().enumerate() {
        let Some(block) = drafted(body, MethodKind::Direct, index % 2 == 0) else { continue };
        let mut recipe = Recipe::default();
        recipe.take(Decided::new("joined_skirt", for_her(body, 600.0), ""));
        let mut wider = Decided::new("side_seams", Amounts::default().with("waist", 6.0), "");
        wider.side = Some(WornSide::Left);
        recipe.take(wider);
        let made = make(&block, &recipe, STYLE);
        assert!(made.is_whole(), "{:?}", made.refused().next());
        hold(&block, &made.pattern, &for_her(body, 600.0), "wider on the left");
        let of = |part: GarmentPart| {
            let pieces = made.pattern.pieces.iter().filter(|piece| piece.kind.part() == part);
            pieces.map(|piece| (piece.kind.side(), piece.sewn_length(Seam::Waist))).collect::<Vec<_>>()
        };
        let front = of(GarmentPart::JoinedSkirtFront);
        let [(Some(WornSide::Left), left), (Some(WornSide::Right), right)] = front[..] else {
            panic!("{front:?}")
        };
        assert!(left - right > 1.0, "{left} and {right}");
    }
}

#[test]
fn a_waist_wider_than_the_skirt_is_gathered_to_it() {
    let body = wishing_body();
    let block = bodice(&body).unwrap();
    let [in_front, _] = half_waists(&block);
    // The hip at which the front's hip width is 10 less than its waist takes no dart; 40 mm less all round are 10 a quarter.
    let hip = 4.0 * (in_front - 10.0 - 9.5);
    let asked =
        |less: f64| Amounts::of(600.0).with("hip", hip - less).with("to_hip", 205.0).with("ease", 0.0);
    let plain = joined(&block, &asked(0.0)).unwrap();
    assert!(plain.front().unwrap().gathers.is_empty());
    hold(&block, &plain, &asked(0.0), "just wide enough");
    let gathered = joined(&block, &asked(40.0)).unwrap();
    hold(&block, &gathered, &asked(40.0), "gathered");
    let front = gathered.front().unwrap();
    let [gather] = front.gathers[..] else { panic!("{:?}", front.gathers) };
    assert!((gather.amount - 10.0).abs() < EXACT && gather.seam == Seam::Waist, "{gather:?}");
    assert!((half_waists(&gathered)[0] - (in_front - 10.0)).abs() < EXACT);
    // Where the gathers end, bodice and skirt are notched.
    let skirt = part(&gathered, GarmentPart::JoinedSkirtFront);
    let on_bodice = front.notches.iter().filter(|notch| notch.seam == Seam::Waist);
    let sewn =
        |flat: f64| flat - gather.amount * ((flat - gather.from_underarm) / gather.flat).clamp(0.0, 1.0);
    let on_bodice: Vec<f64> = on_bodice.map(|notch| sewn(notch.from_underarm)).collect();
    let on_skirt: Vec<f64> =
        skirt.notches.iter().filter(|n| n.seam == Seam::Waist).map(|n| n.from_underarm).collect();
    assert_eq!(on_bodice.len(), 2);
    assert!(
        on_bodice.iter().zip(&on_skirt).all(|(a, b)| (a - b).abs() < EXACT),
        "{on_bodice:?} {on_skirt:?}"
    );
    let far = joined(&block, &asked(244.0)).unwrap_err();
    assert!(
        far.contains("wider than the skirt even without darts") && far.contains("at most 6.0 cm"),
        "{far}"
    );
}

#[test]
fn what_cannot_be_joined_says_the_way_out() {
    let body = wishing_body();
    let block = bodice(&body).unwrap();
    let says = |amounts: &Amounts| joined(&block, amounts).unwrap_err();
    let hip = says(&Amounts::of(600.0).with("to_hip", 205.0));
    assert!(hip.contains("her hip: say it"), "{hip}");
    let short = says(&for_her(&body, 240.0));
    assert!(short.contains("at least 26.5 cm"), "{short}");
    let wide = says(&for_her(&body, 600.0).with("ease", 300.0).with("hip", 1300.0));
    assert!(wide.contains("gather the skirt"), "{wide}");
    joined(&block, &for_her(&body, 600.0).with("ease", 300.0).with("hip", 1300.0).by("taken_in", "gathers"))
        .unwrap();
    let much = says(&for_her(&body, 600.0).with("hip", 2400.0).with("ease", 300.0).by("taken_in", "gathers"));
    assert!(much.contains("twice as much"), "{much}");
    // One waist holds one of the two.
    let with = joined(&block, &for_her(&body, 590.0)).unwrap();
    for code in ["joined_skirt", "waistband"] {
        assert!(!suits(alteration(code).unwrap(), &with), "{code} once more");
    }
    assert!(!suits(alteration("joined_skirt").unwrap(), &dress(&body).unwrap()));
    // The skirt's own alterations are for a skirt by itself, and the bodice's go on.
    assert_eq!(with.garment(), Garment::Bodice);
    assert!(with.front_half().and_then(|half: Half<'_>| half.whole().map(|p| p.kind.is_front())).unwrap());
}

#[test]
fn it_is_the_skirt_that_is_drafted_by_itself_where_its_waist_is_the_same() {
    // The skirt's own draft is the other reader: with a bodice of just its sewn waists both draw the same outline.
    let body = wishing_body().with("skirt_length", 590.0);
    let skirt =
        draft(&body, &Method { kind: MethodKind::Skirt, ..Method::default() }, STYLE).unwrap().pattern;
    let waists = skirt.skirt_halves().map(|(f, b)| [f, b].map(|half| half.sewn_length(Seam::Waist))).unwrap();
    // The handbook's worked skirt (`wishes.md`, section 9): waists 216 and 179.
    assert!((waists[0] - 216.0).abs() < 0.02 && (waists[1] - 179.0).abs() < 0.02, "{waists:?}");
    // A band under the bust has no darts that the skirt's would lie below.
    let parted = Recipe::default().and("under_bust_seam", Amounts::of(65.0), "");
    let mut narrowed = make(&bodice(&body).unwrap(), &parted, STYLE).pattern;
    let have = half_waists(&narrowed);
    for (part, by) in [GarmentPart::FrontBand, GarmentPart::BackBand].into_iter().zip([0, 1]) {
        let piece = narrowed.pieces.iter_mut().find(|piece| piece.kind.part() == part).unwrap();
        let amount = have[by] - waists[by];
        piece.gathers.push(Gather { seam: Seam::Waist, from_underarm: 10.0, flat: 60.0, amount });
    }
    let made = joined(&narrowed, &for_her(&body, 590.0)).unwrap();
    let of = |pattern: &Pattern, parts: [GarmentPart; 2]| {
        let pieces = parts.map(|of| Piece { kind: PieceKind::SLEEVE, ..part(pattern, of).clone() });
        Pattern::new(pieces.to_vec())
    };
    let one = of(&made, [GarmentPart::JoinedSkirtFront, GarmentPart::JoinedSkirtBack]);
    let other = of(&skirt, [GarmentPart::SkirtFront, GarmentPart::SkirtBack]);
    let apart = furthest_apart(&one, &other);
    assert!(apart < 0.05, "{apart}");
}

#[test]
fn a_full_length_on_a_bodice_is_a_skirt_that_is_joined() {
    let block = bodice(&wishing_body()).unwrap();
    let figures = [
        ("hip_girth", 1020.0),
        ("waist_to_hip", 205.0),
        ("snp_to_waist_front", 440.0),
        ("waist_to_knee", 585.0),
    ];
    let profile = read(&figures).wishing("full_length", Some(1030.0));
    let all = wishes(&profile, &block, standard_ease(), STYLE);
    let wish = all.iter().find(|wish| wish.alteration == "joined_skirt").unwrap();
    assert!(wish.refused.is_none() && !all.iter().any(|wish| wish.alteration == "hem_length"), "{all:?}");
    assert_eq!(
        wish.amounts,
        Amounts::of(590.0).with("hip", 1020.0).with("to_hip", 205.0).with("knee", 585.0)
    );
    assert!(wish.is_wished(Garment::Bodice), "{wish:?}");
    // On a dress that goes on below the waist the same wish is a hem.
    let on_dress = wishes(&profile, &dress(&wishing_body()).unwrap(), standard_ease(), STYLE);
    assert!(on_dress.iter().any(|wish| wish.alteration == "hem_length"));
    assert!(!on_dress.iter().any(|wish| wish.alteration == "joined_skirt"));
    // Only a skirt's length: offered on the bodice, and no wish of hers for it.
    let skirt = read(&figures).wishing("skirt_length", Some(640.0));
    let all = wishes(&skirt, &block, standard_ease(), STYLE);
    let wish = all.iter().find(|wish| wish.alteration == "joined_skirt").unwrap();
    assert_eq!(wish.amounts.amount(), 640.0);
    assert!(!wish.is_wished(Garment::Bodice));
}
