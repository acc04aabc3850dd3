//! Cows drawn by the tool against cows by turns and the slowest cow, on simulated horses.

use cavesson_judge::{CattleResult, Drawn, cattle_days};

fn over(way: Drawn, barns: u64) -> CattleResult {
    (0..barns).map(|seed| cattle_days(way, seed)).fold(CattleResult::default(), |a, b| CattleResult {
        horses: a.horses + b.horses,
        there: a.there + b.there,
        works: a.works + b.works,
        lost: a.lost + b.lost,
        off: a.off + b.off,
    })
}

#[test]
fn horses_drawn_cows_by_the_tool_get_there_in_fewer_works_and_lose_fewer_cows() {
    let [tool, turns, slowest] = Drawn::ALL.map(|way| over(way, 6));
    println!("{tool:?}\n{turns:?}\n{slowest:?}");
    assert!(tool.there >= turns.there && tool.there >= slowest.there, "{tool:?} {turns:?} {slowest:?}");
    assert!(tool.works < turns.works && tool.works < slowest.works, "{tool:?} {turns:?} {slowest:?}");
    assert!(tool.lost < turns.lost && tool.lost < slowest.lost, "{tool:?} {turns:?} {slowest:?}");
    assert_eq!(tool, over(Drawn::ByTheTool, 6), "the same twice");
}
