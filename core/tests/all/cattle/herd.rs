//! The herd, its works, how fast a cow a horse holds, and when to quit.

use cavesson_core::cattle::{
    CattleEvent, CattleLimits, CattleRide, CowHealth, CowNeeds, CowSpeed, CowWork, FlagAsked, FlagEnd, Freshness, Go,
    HeldTurn, HerdCow, HerdRules, Manner, NextOnCattle, Position, StopTold, Stopped, Turn, Way, Work, WorkDone,
    cattle_day, cow_works, draw, end_habit, flag_programme, flag_speed, next_on_cattle, speed_limit,
};
use proptest::prelude::*;
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

const LIMITS: CattleLimits = CattleLimits { go_minutes: 3, minutes: 12, right: 2 };

fn turned(way: Way) -> Turn {
    let (position, stopped, speed) = (Position::Leg, Stopped::Even, CowSpeed::Slow);
    Turn { way, position, stopped, through: true, speed, honoured: true }
}

fn worked(turns: &[Turn]) -> CowWork<u8> {
    CowWork { cow: 1, begin: 0, seconds: 60, turns: turns.to_vec(), lost: [0; 2], why: None }
}

fn next(turns: &[Turn]) -> NextOnCattle {
    next_on_cattle(&[worked(turns)], LIMITS).unwrap().next
}

#[test]
fn works_are_told_apart_by_cow_by_leaving_and_by_a_long_pause() {
    let work = |cow| CattleEvent::Work { cow, why: None };
    let turn = |cow| CattleEvent::Turn {
        cow,
        way: Way::Left,
        position: Position::Pad,
        stopped: Stopped::Past,
        through: false,
        speed: CowSpeed::Fast,
        honoured: false,
    };
    let all = cow_works(&[
        (0, work(1)),
        (100, turn(1)),
        (130, CattleEvent::Left),
        (200, turn(1)),
        (230, turn(2)),
        (900, turn(2)),
        (930, CattleEvent::Lost { cow: 2, in_position: true }),
    ]);
    let told: Vec<(u8, i64, usize)> = all.iter().map(|w| (w.cow, w.seconds, w.turns.len())).collect();
    assert_eq!(told, [(1, 100, 1), (1, 0, 1), (2, 0, 1), (2, 30, 1)]);
    assert_eq!(
        (all[3].tried(), all[3].honoured(), all[3].lost),
        (2, 0, [0, 1]),
        "one that ran through counts as tried"
    );
    assert!((all[0].minutes() - 100.0 / 60.0).abs() < 1e-12 && all[2].minutes() == 1.0, "a minute at least");
}

#[test]
fn a_herd_is_spared_by_health_manner_and_limits() {
    let rules = HerdRules::default();
    let cow = |manner, health, works: &[i32]| {
        let done = |day: &i32| WorkDone { day: *day, minutes: 3.0, tried: 4.0, honoured: 4.0 };
        HerdCow { manner, health, log: works.iter().map(done).collect() }
    };
    let says = |cow: &HerdCow| cow.spared(&rules).unwrap_or("");
    assert_eq!(says(&cow(Manner::Slow, CowHealth::Well, &[-1, 0, 0])), "");
    assert!(says(&cow(Manner::Slow, CowHealth::Well, &[0, 0, 0])).contains("day"));
    assert!(says(&cow(Manner::Slow, CowHealth::Well, &[-6, -5, -4, -3, -2, -2, -1, -1])).contains("week"));
    assert_eq!(
        says(&cow(Manner::Slow, CowHealth::Well, &[-7, -5, -4, -3, -2, -2, -1, -1])),
        "",
        "seven days ago is over"
    );
    assert!(says(&cow(Manner::Sour, CowHealth::Well, &[])).contains("sour"));
    assert!(says(&cow(Manner::Slow, CowHealth::RunnyEyes, &[])).contains("have it seen"));
    let fresh = cow(Manner::Honest, CowHealth::Well, &[]).today(&rules);
    assert_eq!((fresh.honour, fresh.freshness, fresh.rest), (900, Freshness::Fresh, None));
    // Thirty minutes today: 2^-1.5 of it is left.
    let long = |day| WorkDone { day, minutes: 30.0, tried: 0.0, honoured: 0.0 };
    let spent = HerdCow { manner: Manner::Honest, health: CowHealth::Well, log: vec![long(0)] }.today(&rules);
    assert_eq!((spent.honour, spent.freshness), ((900.0 * 0.5_f64.powf(1.5)).round() as u32, Freshness::Spent));
}

#[test]
fn rules_out_of_range_are_named() {
    let rules = HerdRules::default();
    assert_eq!(rules.wrong(), None);
    assert_eq!(HerdRules { week: 2, ..rules }.wrong().unwrap().0, "week", "fewer than in a day");
    assert_eq!(HerdRules { rest_half_days: f64::NAN, ..rules }.wrong().unwrap().0, "rest_half_days");
}

#[test]
fn what_goes_wrong_twice_one_way_is_not_tried_a_third_time() {
    let out = Turn { through: false, ..turned(Way::Right) };
    assert_eq!(next(&[out]), NextOnCattle::GoOn);
    assert_eq!(
        next(&[out, turned(Way::Left), out]),
        NextOnCattle::LeaveCattle,
        "a turn the other way says nothing of it"
    );
    assert_eq!(next(&[out, turned(Way::Right), out]), NextOnCattle::GoOn, "it came right between");
    let past = Turn { stopped: Stopped::Past, ..turned(Way::Left) };
    assert_eq!(next(&[past, past]), NextOnCattle::LeaveCattle);
    let why = next_on_cattle(&[worked(&[out, out])], LIMITS).unwrap().why;
    assert!(why.contains("right") && why.contains("open pen"), "{why}");
}

#[test]
fn a_cow_that_is_done_is_changed_and_a_right_turn_is_quit_on() {
    let lost = |in_position: usize| {
        let mut work = worked(&[turned(Way::Left)]);
        work.lost[in_position] = 1;
        next_on_cattle(&[work], LIMITS).unwrap()
    };
    assert_eq!([lost(0).next, lost(1).next], [NextOnCattle::AnotherCow; 2]);
    assert_ne!(lost(0).why, lost(1).why);
    let walked = Turn { honoured: false, ..turned(Way::Left) };
    assert_eq!(next(&[walked, turned(Way::Right), walked]), NextOnCattle::AnotherCow);
    let both = [Way::Left, Way::Right, Way::Left, Way::Right].map(turned);
    assert_eq!(next(&both), NextOnCattle::QuitHere);
    let short = Turn { stopped: Stopped::Short, ..turned(Way::Left) };
    assert_eq!(next(&[&both[..], &[short]].concat()), NextOnCattle::GoOn, "not on a wrong one");
    let long: Vec<CowWork<u8>> = (0..4).map(|_| CowWork { seconds: 200, ..worked(&[short]) }).collect();
    assert_eq!(next_on_cattle(&long, LIMITS).unwrap().next, NextOnCattle::OneMore);
    assert_eq!(next_on_cattle(&[worked(&[])], LIMITS), None, "nothing was turned yet");
}

/// Horses whose true limit is known: four turns in five at it are held, and fewer by a logistic curve above.
#[test]
fn the_speed_a_horse_holds_is_found_within_its_interval() {
    let (mut within, mut off) = (0, 0.0);
    let horses = 200;
    for seed in 0..horses {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let truth: f64 = rng.random_range(5.0..12.0);
        let half = truth + 1.5 * 4.0_f64.ln();
        let turns: Vec<HeldTurn> = (0..40)
            .map(|_| {
                let speed = rng.random_range(4.0..17.0);
                let held = rng.random::<f64>() < 1.0 / (1.0 + ((speed - half) / 1.5).exp());
                HeldTurn { speed, held }
            })
            .collect();
        let found = speed_limit(&turns);
        within += usize::from((found.between[0]..=found.between[1]).contains(&truth));
        off += (found.limit - truth).abs() / horses as f64;
    }
    assert!(off < 0.8, "{off} ft/s off on average after forty turns");
    assert!((140..=180).contains(&within), "{within} of 200 within an interval of four in five");
}

fn herd_of(rng: &mut impl rand::Rng) -> Vec<HerdCow> {
    (0..rng.random_range(3..9))
        .map(|_| {
            let log = (0..rng.random_range(0..4))
                .map(|n| WorkDone { day: n - 4, minutes: 4.0, tried: 5.0, honoured: 4.0 })
                .collect();
            let manner = Manner::ALL[rng.random_range(0..Manner::ALL.len())];
            let health = if rng.random_bool(0.2) { CowHealth::Lame } else { CowHealth::Well };
            HerdCow { manner, health, log }
        })
        .collect()
}

fn rides_of(rng: &mut impl rand::Rng) -> Vec<CattleRide> {
    (0..rng.random_range(1..4))
        .map(|_| CattleRide {
            needs: CowNeeds {
                manners: vec![Manner::Slow, Manner::Honest, Manner::BobAndWeave],
                most_speed: rng.random_range(7..16),
                least_honour: rng.random_range(0..800),
                helper: rng.random_bool(0.5),
            },
            limit: None,
            from: 1,
            goes: 3,
            learns: rng.random_bool(0.5),
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// What is said to be broken and what the search holds to are written twice: they agree on any draw.
    #[test]
    fn rules_named_and_rules_held_agree(seed in any::<u64>(), helper in any::<bool>()) {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let (herd, rides) = (herd_of(&mut rng), rides_of(&mut rng));
        let day = cattle_day(&rides, &herd, &HerdRules { bring: 3, ..HerdRules::default() }, 10, helper);
        let (best, _) = draw(&day, Work { seed, tries: 4_000 });
        prop_assert!(day.broken(&best).is_empty(), "{:?}", day.broken(&best));
        for _ in 0..40 {
            let mut goes = if rng.random_bool(0.5) { best.clone() } else { vec![None; 10] };
            for _ in 0..rng.random_range(0..5) {
                let (horse, cow) = (rng.random_range(0..rides.len()) as u8, rng.random_range(0..herd.len()) as u8);
                let slot = rng.random_range(0..10);
                goes[slot] = rng.random_bool(0.8).then_some(Go { horse, cow });
            }
            prop_assert_eq!(day.broken(&goes).is_empty(), day.value(&goes).is_some(), "{:?}", goes);
        }
    }
}

#[test]
fn a_lame_or_sour_cow_is_never_drawn_and_nothing_faster_than_the_horse_holds() {
    let mut rng = ChaCha8Rng::seed_from_u64(3);
    for seed in 0..20 {
        let (herd, rides) = (herd_of(&mut rng), rides_of(&mut rng));
        let day = cattle_day(&rides, &herd, &HerdRules::default(), 14, true);
        for go in draw(&day, Work { seed, tries: 4_000 }).0.into_iter().flatten() {
            let cow = &herd[usize::from(go.cow)];
            assert!(cow.spared(&HerdRules::default()).is_none(), "{cow:?}");
            assert!(cow.manner.speeds()[0] <= 8.0, "a horse with no turns yet: {cow:?}");
        }
    }
}

fn told(end: FlagEnd, past: i16) -> StopTold {
    StopTold { end, past, late: false, guessed: false }
}

/// Whoever guesses that the flag turns back, as it mostly does, is wrong often enough; and nothing is ever against the rail.
#[test]
fn a_programme_is_short_balanced_and_cannot_be_guessed() {
    let (mut turned, mut all) = (0, 0);
    for seed in 0..200 {
        let stops = if seed % 2 == 0 { vec![] } else { vec![told(FlagEnd::Left, 25); 6] };
        let asked = FlagAsked { half: 25.0, turns: true, stops, seed };
        let moves = flag_programme(&asked);
        assert_eq!(moves, flag_programme(&asked));
        assert_eq!(moves.len(), 8);
        assert!(
            moves.iter().all(|m| m.to.abs() <= 23.5 && (2.0..=9.0).contains(&m.wait) && m.speed <= 9.0),
            "{moves:?}"
        );
        let places: Vec<f64> = [0.0].into_iter().chain(moves.iter().map(|m| m.to)).collect();
        assert!(places.windows(2).all(|p| (p[1] - p[0]).abs() > 1.0), "{places:?}");
        let ways: Vec<f64> = places.windows(2).map(|p| (p[1] - p[0]).signum()).collect();
        turned += ways.windows(2).filter(|w| w[0] != w[1]).count();
        all += ways.len() - 1;
    }
    let share = turned as f64 / all as f64;
    assert!((0.5..0.85).contains(&share), "it turns back {share} of the time");
}

#[test]
fn the_remedy_stands_at_the_end_where_it_is_needed() {
    let stops = [vec![told(FlagEnd::Left, 25); 4], vec![told(FlagEnd::Right, -15); 4]].concat();
    let remedy = |end| end_habit(&stops, end).remedy.unwrap_or("");
    assert!(remedy(FlagEnd::Left).contains("circle") && remedy(FlagEnd::Right).contains("hurry"));
    assert_eq!(end_habit(&stops, FlagEnd::Middle).remedy, None);
    assert_eq!(end_habit(&stops[..2], FlagEnd::Left).remedy, None, "twice is no habit");
    let guesses = [StopTold { guessed: true, ..told(FlagEnd::Right, 0) }; 3];
    assert!(end_habit(&guesses, FlagEnd::Right).remedy.unwrap().contains("wait"));
    let asked = FlagAsked { half: 25.0, turns: true, stops: stops.clone(), seed: 3 };
    for m in flag_programme(&asked) {
        let wants = if m.to < -12.5 {
            "circle"
        } else if m.to > 12.5 {
            "hurry"
        } else {
            ""
        };
        assert!(m.remedy.unwrap_or("").contains(wants), "{m:?}");
        assert!(m.to >= -12.5 || m.wait >= 5.0, "it waits longer where the horse runs past: {m:?}");
    }
    assert!(flag_speed(&[]) < flag_speed(&[told(FlagEnd::Left, 0); 6]), "faster as stops come right");
    assert!(told(FlagEnd::Left, -10).is_right() && !told(FlagEnd::Left, 11).is_right());
}
