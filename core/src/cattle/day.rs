//! The draw of a cattle day from what the barn knows: horses with what their next rung asks of a cow, and the herd as it stands.

use serde::{Deserialize, Serialize};

use super::{CowDay, Draw, DrawCow, DrawHorse, HerdCow, HerdRules, Manner, Slots, SpeedLimit};

/// What a rung asks of the cow that it is worked on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CowNeeds {
    /// Manners that suit it, at least one.
    pub manners: Vec<Manner>,
    /// It goes no faster, feet a second, 1 to 60.
    pub most_speed: u8,
    /// Of a thousand turns it honours so many at least.
    pub least_honour: u16,
    /// Whether someone has to help.
    pub helper: bool,
}

impl CowNeeds {
    /// What is wrong with it, in words.
    pub fn problem(&self) -> Option<&'static str> {
        let checks = [
            (self.manners.is_empty(), "name at least one manner of cow that suits it"),
            (!(1..=60).contains(&self.most_speed), "a cow goes 1 to 60 feet a second"),
            (self.least_honour > 980, "no cow honours more than 980 of a thousand turns"),
        ];
        checks.into_iter().find(|(wrong, _)| *wrong).map(|(_, says)| says)
    }
}

/// A horse that is ridden on cattle today, in the order of the clock.
#[derive(Debug, Clone, PartialEq)]
pub struct CattleRide {
    /// What its rung asks of a cow.
    pub needs: CowNeeds,
    /// The slower of its limits of the two ways; none where it was never turned.
    pub limit: Option<SpeedLimit>,
    /// The first slot from which it is there.
    pub from: u16,
    /// Goes that it is given at most.
    pub goes: u8,
    /// Whether its rung is not owned yet: it needs an honest cow more than another does.
    pub learns: bool,
}

/// A go is worth so much to a horse, in thousandths; its second and third less.
const WORTH: [i64; 4] = [12_000, 8_000, 5_000, 3_000];
/// Each thousandth of honour that a cow lacks costs so much, for a horse that learns and for one that knows.
const LOSS: [i64; 2] = [16, 8];
/// A cow a little under the limit makes good positions, feet a second.
const UNDER: f64 = 0.5;
/// A horse that was never turned is not put on a faster cow, feet a second.
const FIRST: f64 = 8.0;
/// Nor on one that is so much slower than its fastest, where enough others suit it, feet a second: it learns nothing there.
const BAND: f64 = 4.0;
/// Turns that a horse's own limit rests on before slow cows are kept for others.
const KNOWN: usize = 10;
/// Empty slots between two horses.
const CHANGE: u16 = 1;
/// Slots that a cow rests between two goes.
const REST: u16 = 2;
/// How much slower a cow is after each go, feet a second.
const FALLS: f64 = 0.75;

/// The draw of a day: slots of one go each. Cows that are spared today have no goes left.
pub fn cattle_day(rides: &[CattleRide], herd: &[HerdCow], rules: &HerdRules, slots: u16, helper: bool) -> Draw {
    let all = Slots { from: 1, to: slots };
    let horses = rides
        .iter()
        .map(|ride| DrawHorse {
            there: Slots { from: ride.from.clamp(1, slots), to: slots },
            helper: ride.needs.helper,
            worth: WORTH[..usize::from(ride.goes).min(WORTH.len())].to_vec(),
            loss: LOSS[usize::from(!ride.learns)],
            least_honour: ride.needs.least_honour.into(),
            speed: [slowest(ride, herd, rules), fastest(ride)],
            manners: ride.needs.manners.clone(),
            not: vec![],
            after: vec![],
        })
        .collect();
    let cows = herd.iter().map(|cow| draw_cow(cow, rules)).collect();
    let helper = if helper { vec![all] } else { vec![] };
    Draw { slots, bring: rules.bring.into(), change: CHANGE, helper, horses, cows }
}

/// The fastest cow for a horse today: a little under its own limit where its turns say one, and never over what its rung asks.
pub fn fastest(ride: &CattleRide) -> f64 {
    let own = match ride.limit {
        Some(limit) if limit.turns > 0 => (limit.between[1] - UNDER).max(FIRST),
        _ => FIRST,
    };
    own.min(ride.needs.most_speed.into())
}

/// The slowest cow for a horse today: a cow a little under its limit teaches it most. Any, where little is known of it or too few cows are left.
fn slowest(ride: &CattleRide, herd: &[HerdCow], rules: &HerdRules) -> f64 {
    let most = fastest(ride);
    let least = (most - BAND).max(0.0);
    let known = ride.limit.is_some_and(|limit| limit.turns >= KNOWN);
    let suits = |cow: &&HerdCow| {
        let [fresh, _] = cow.manner.speeds();
        ride.needs.manners.contains(&cow.manner) && (least..=most).contains(&fresh) && cow.spared(rules).is_none()
    };
    let enough = herd.iter().filter(suits).count() >= 2 * usize::from(ride.goes);
    if known && enough { least } else { 0.0 }
}

fn draw_cow(cow: &HerdCow, rules: &HerdRules) -> DrawCow {
    let today = cow.today(rules);
    let left =
        [u32::from(rules.day).saturating_sub(today.works[0]), u32::from(rules.week).saturating_sub(today.works[1])];
    let goes = if cow.spared(rules).is_some() { 0 } else { left[0].min(left[1]) };
    let day = CowDay::of(&cow.log, cow.manner.start(), rules.wear());
    let [fresh, slow] = cow.manner.speeds();
    let worked = f64::from(today.works[0]);
    DrawCow {
        manner: cow.manner,
        cost: 0,
        from: 1,
        rest: REST,
        honour: (0..=goes).map(|k| day.honour(f64::from(k) * f64::from(rules.go_minutes))).collect(),
        speed: (0..=goes).map(|k| (fresh - FALLS * (worked + f64::from(k))).max(slow)).collect(),
    }
}
