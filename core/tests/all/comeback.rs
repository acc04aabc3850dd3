//! The way back after time off, and what lasts about a horse. The days and loads are common practice made into figures; no published
//! source.

use cavesson_core::{
    barn::Trait,
    curriculum::Gait,
    load::{ComebackStage, LayOff, OffReason},
    ride::{CheckContext, checks},
};
use chrono::{Days, NaiveDate};
use proptest::prelude::*;

fn date(day: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 1, 1).unwrap() + Days::new(day)
}

fn off(days: u64, why: OffReason) -> LayOff {
    LayOff { off_since: date(0), back_on: date(days), why, vet_agrees: false }
}

#[test]
fn sixty_days_turned_out_are_twenty_days_of_way_back_and_an_injury_is_forty() {
    let rest = off(60, OffReason::Rest);
    let told: Vec<(ComebackStage, i64)> =
        rest.stages().into_iter().map(|(stage, from, to)| (stage, (to - from).num_days() + 1)).collect();
    assert_eq!(told, [(ComebackStage::Walk, 7), (ComebackStage::Jog, 7), (ComebackStage::Lope, 6)]);
    assert_eq!(rest.until(), date(79));
    let hurt = off(60, OffReason::Injury);
    let told: Vec<(ComebackStage, i64)> =
        hurt.stages().into_iter().map(|(stage, from, to)| (stage, (to - from).num_days() + 1)).collect();
    assert_eq!(
        told,
        [(ComebackStage::InHand, 8), (ComebackStage::Walk, 11), (ComebackStage::Jog, 11), (ComebackStage::Lope, 10)]
    );
    assert!(
        hurt.on(date(60)).unwrap().vet_asked == Some(OffReason::Injury)
            && rest.on(date(60)).unwrap().vet_asked.is_none()
    );
    assert_eq!(LayOff { vet_agrees: true, ..hurt }.on(date(60)).unwrap().vet_asked, None);
    assert_eq!(
        rest.on(date(69)).unwrap().in_words(),
        "Day 10 of 20 back in work: walk and short jogs, at most 57% of its usual load"
    );
    assert_eq!(rest.on(date(30)).unwrap().in_words(), "It is off: no work");
}

proptest! {
    #[test]
    fn no_day_asks_less_than_the_day_before_and_the_last_is_full_work(days in 1_u64..900, why in 0_usize..3) {
        let off = off(days, OffReason::ALL[why]);
        prop_assert!(off.on(date(0) - Days::new(1)).is_none() && off.on(off.until() + Days::new(1)).is_none());
        let all: Vec<_> = (0..off.length()).map(|n| off.on(off.back_on + Days::new(n.into())).unwrap()).collect();
        prop_assert!(all.windows(2).all(|w| w[0].stage <= w[1].stage && w[0].load_percent <= w[1].load_percent));
        prop_assert!(all.windows(2).all(|w| w[0].day + 1 == w[1].day));
        prop_assert_eq!((all[0].load_percent, all[all.len() - 1].load_percent), (20, 100));
        prop_assert_eq!(all[all.len() - 1].stage, ComebackStage::Lope);
        prop_assert_eq!(off.on(off.back_on - Days::new(1)).unwrap().stage, ComebackStage::Off);
    }
}

#[test]
fn the_vets_word_is_waited_for_and_spurs_come_off_a_horse_that_pops_up() {
    let ids = |b: &CheckContext| checks(b).into_iter().map(|c| (c.id, c.must)).collect::<Vec<_>>();
    let plain = CheckContext { days_ridden: 40, spurs: true, fastest: Some(Gait::Lope), ..CheckContext::default() };
    assert!(ids(&plain).iter().all(|c| !["vet", "spurs", "hips"].contains(&c.0)));
    let back = CheckContext { vet_asked: Some(OffReason::Injury), ..plain.clone() };
    assert_eq!(ids(&back)[0], ("vet", true));
    assert_eq!(checks(&back)[0].why, "It was off: injury");
    let pops = CheckContext { traits: vec![Trait::PopsUpBehind], ..plain.clone() };
    assert!(ids(&pops).contains(&("spurs", false)) && ids(&pops).contains(&("hips", false)));
    let without = CheckContext { spurs: false, ..pops };
    assert!(!ids(&without).contains(&("spurs", false)));
    let ticklish = CheckContext { traits: vec![Trait::LegSensitive], ..plain };
    assert!(checks(&ticklish).iter().any(|c| c.id == "spurs" && c.why == "It is sensitive to the leg"));
}
