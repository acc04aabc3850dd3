//! When to leave the cattle, what for, and what came of it; how far outside a horse holds; and when to quit on the flag.

use cavesson_core::cattle::{
    CattleEvent, CattleFault, CowSpeed, FixElsewhere, FlagEnd, NextOnCattle, Position, StopTold, Stopped, Turn, Way,
    came_back, fix_elsewhere, next_on_flag, outside,
};
use proptest::prelude::*;

fn turn(way: Way, stopped: Stopped, through: bool) -> Turn {
    Turn { way, position: Position::Leg, stopped, through, speed: CowSpeed::Slow, honoured: true }
}

fn event(cow: u8, turn: Turn) -> CattleEvent<u8> {
    let Turn { way, position, stopped, through, speed, honoured } = turn;
    CattleEvent::Turn { cow, way, position, stopped, through, speed, honoured }
}

#[test]
fn the_same_fault_twice_one_way_is_fixed_elsewhere() {
    let (right, out) = (turn(Way::Left, Stopped::Even, true), turn(Way::Left, Stopped::Even, false));
    let past = turn(Way::Right, Stopped::Past, true);
    let shoulders = Some(FixElsewhere { way: Way::Left, fault: CattleFault::PokesOut });
    let ran_on = Some(FixElsewhere { way: Way::Right, fault: CattleFault::GoesPast });
    assert_eq!(fix_elsewhere(&[out]), None);
    assert_eq!(fix_elsewhere(&[out, past, out]), shoulders, "a turn the other way is not between them");
    assert_eq!(fix_elsewhere(&[out, out, right]), None, "it came right");
    assert_eq!(fix_elsewhere(&[past, right, past]), ran_on);
    assert_eq!(fix_elsewhere(&[out, right, right, right, right, right, out]), None, "too long ago");
}

#[test]
fn after_coming_back_the_fault_is_compared_on_a_like_cow() {
    let (right, out) = (turn(Way::Left, Stopped::Even, true), turn(Way::Left, Stopped::Even, false));
    let other_way = turn(Way::Right, Stopped::Even, false);
    let before = [event(1, right), event(1, out), event(1, out), CattleEvent::Left];
    let like = |a: u8, b: u8| a % 2 == b % 2;
    let none = came_back(&before, like);
    assert_eq!((none.len(), none[0].since.of, none[0].like), (1, 0, false));
    assert!(none[0].says().ends_with("none yet since"));
    let all = [&before[..], &[event(3, right), event(3, other_way), event(3, out), event(2, right)]].concat();
    let back = came_back(&all, like);
    assert_eq!((back[0].before.wrong, back[0].before.of), (2, 3));
    assert_eq!((back[0].since.wrong, back[0].since.of, back[0].like), (1, 3, true), "turns the other way do not count");
    // Leaving the herd with nothing wrong is no such thing.
    assert!(came_back(&[event(1, right), CattleEvent::Left, event(1, right)], like).is_empty());
}

#[test]
fn outside_is_a_ladder() {
    let at = |position, stopped| Turn { position, ..turn(Way::Left, stopped, true) };
    let held = |turns: &[Turn]| {
        let found = outside(turns, Way::Left);
        (found.held, found.next)
    };
    let leg = [at(Position::Leg, Stopped::Even); 4];
    assert_eq!(held(&[]), (None, Some(Position::Leg)));
    assert_eq!(held(&leg[..3]), (None, Some(Position::Leg)), "three turns are too few");
    assert_eq!(held(&leg), (Some(Position::Leg), Some(Position::Pad)));
    let hip = [at(Position::Hip, Stopped::Even); 4];
    assert_eq!(held(&[leg, hip].concat()), (Some(Position::Hip), Some(Position::Off)), "the pad was passed over");
    let lost_at_the_pad = [at(Position::Pad, Stopped::Past); 4];
    assert_eq!(held(&[leg, hip, lost_at_the_pad].concat()), (Some(Position::Leg), Some(Position::Pad)));
    assert_eq!(held(&[at(Position::Off, Stopped::Even); 4]), (Some(Position::Off), None));
    assert_eq!(outside(&leg, Way::Right).held, None, "each way for itself");
}

fn stop(end: FlagEnd, past: i16) -> StopTold {
    StopTold { end, past, late: false, guessed: false }
}

#[test]
fn a_stop_by_itself_at_the_bad_end_ends_the_work_on_the_flag() {
    let next = |before: &[StopTold], now: &[StopTold]| next_on_flag(before, now).map(|advice| advice.next);
    let (even, past) = (stop(FlagEnd::Left, 0), stop(FlagEnd::Left, 25));
    assert_eq!(next(&[past; 4], &[]), None);
    assert_eq!(next(&[past; 4], &[past]), Some(NextOnCattle::GoOn));
    assert_eq!(next(&[past; 4], &[even]), Some(NextOnCattle::QuitHere));
    assert_eq!(next(&[past; 4], &[stop(FlagEnd::Right, 0)]), Some(NextOnCattle::GoOn), "at the other end it never did");
    assert_eq!(next(&[], &[even; 4]), Some(NextOnCattle::GoOn), "four are few");
    assert_eq!(next(&[], &[even; 5]), Some(NextOnCattle::QuitHere));
    assert_eq!(next(&[], &[stop(FlagEnd::Left, -30); 10]), Some(NextOnCattle::OneMore));
}

proptest! {
    /// However the last stop is told, a work that quits does so on a right one.
    #[test]
    fn the_flag_is_never_quit_on_a_wrong_stop(
        before in prop::collection::vec((-40..40_i16, any::<bool>()), 0..12),
        now in prop::collection::vec((-40..40_i16, any::<bool>(), any::<bool>()), 1..14),
    ) {
        let ends = |n: usize| FlagEnd::ALL[n % 3];
        let before: Vec<StopTold> = before.iter().enumerate().map(|(n, &(past, late))| StopTold { late, ..stop(ends(n), past) }).collect();
        let now: Vec<StopTold> = (now.iter().enumerate())
            .map(|(n, &(past, late, guessed))| StopTold { late, guessed, ..stop(ends(n), past) })
            .collect();
        let advice = next_on_flag(&before, &now).unwrap();
        prop_assert!(advice.next != NextOnCattle::QuitHere || now.last().unwrap().is_right());
    }
}
