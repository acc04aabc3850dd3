//! Rides in place, with what each one takes up, so that putting one in and taking one out is quick.

use super::{
    bits,
    options::{Choice, Group},
    time_grid::TimeGrid,
};
use crate::schedule::{DAYS, Ix, Ride, SHORT, WeekProblem};

/// Index of a ride in [`State`].
pub(in crate::schedule) type Slot = u32;
pub(in crate::schedule) const NONE: Slot = Slot::MAX;

#[derive(Debug, Clone, Copy)]
pub(in crate::schedule) struct Placed {
    pub(in crate::schedule) ride: Ride,
    pub(in crate::schedule) cost: i64,
    /// Fixed rides are never taken out.
    pub(in crate::schedule) fixed: bool,
}

#[derive(Debug, Clone)]
pub(in crate::schedule) struct State<'w> {
    pub(in crate::schedule) week: &'w WeekProblem,
    pub(in crate::schedule) grid: TimeGrid,
    units: usize,
    pub(in crate::schedule) words: usize,
    /// Units of each rider and day that are taken, as bits; and those outside the hours, which count as taken for tightness.
    pub(super) busy: Vec<u64>,
    shut: Vec<u64>,
    /// Units with any part inside the hours, and the longest stretch of those that is free: worked out when it is asked for.
    open: Vec<u64>,
    longest: Vec<Option<u16>>,
    /// Units of each place and day that hold no more.
    pub(in crate::schedule) full: Vec<u64>,
    rides: Vec<Option<Placed>>,
    empty: Vec<Slot>,
    /// Who is on whom, by rider, day and unit.
    pub(in crate::schedule) riders: Vec<Slot>,
    /// How many are there, by place, day and unit.
    places: Vec<u16>,
    /// Rides in a place on a day.
    pub(in crate::schedule) there: Vec<Vec<Slot>>,
    /// Rides of a horse on each day; more than one only where fixed rides have it so.
    pub(in crate::schedule) on_day: Vec<Vec<Slot>>,
    pub(in crate::schedule) load: Vec<[u32; DAYS]>,
    pub(in crate::schedule) of_horse: Vec<Vec<Slot>>,
    pub(in crate::schedule) of_work: Vec<Vec<Slot>>,
    pub(in crate::schedule) with_cows: [Vec<Slot>; DAYS],
    pub(in crate::schedule) cows: [u32; DAYS],
    eve: Vec<u32>,
    /// What the rides are worth, less their riders' costs.
    worth: i64,
    /// Rides that horses are short of, taken together, and what each counts for now: less than [`SHORT`] while a plan is hot.
    short_of: i64,
    pub(super) short_cost: i64,
}

impl<'w> State<'w> {
    pub(in crate::schedule) fn new(week: &'w WeekProblem) -> State<'w> {
        let grid = TimeGrid::of(week);
        let units = grid.units();
        let words = units.div_ceil(64);
        let eve =
            |h: Ix| week.before.iter().filter(|b| b.day == -1 && week.works[b.work].horse == h).map(|b| b.load).sum();
        let short_of = week.horses.iter().map(|h| i64::from(h.least)).sum::<i64>();
        let mut state = State {
            week,
            grid,
            units,
            words,
            busy: vec![0; week.riders.len() * DAYS * words],
            shut: shut(week, grid, units),
            open: open(week, grid, units, words),
            longest: vec![None; week.riders.len() * DAYS],
            full: full(week, words, units),
            rides: vec![],
            empty: vec![],
            riders: vec![NONE; week.riders.len() * DAYS * units],
            places: vec![0; week.places.len() * DAYS * units],
            there: vec![vec![]; week.places.len() * DAYS],
            on_day: vec![vec![]; week.horses.len() * DAYS],
            load: vec![[0; DAYS]; week.horses.len()],
            of_horse: vec![vec![]; week.horses.len()],
            of_work: vec![vec![]; week.works.len()],
            with_cows: Default::default(),
            cows: [0; DAYS],
            eve: (0..week.horses.len()).map(eve).collect(),
            worth: 0,
            short_of,
            short_cost: SHORT,
        };
        for &ride in &week.fixed {
            let costs = &week.works[ride.work].riders;
            let cost = costs.iter().find(|(r, _)| *r == ride.rider).map_or(0, |(_, c)| *c);
            state.put(Placed { ride, cost, fixed: true });
        }
        state
    }

    pub(in crate::schedule) fn rides(&self) -> Vec<Ride> {
        self.rides.iter().flatten().map(|p| p.ride).collect()
    }

    pub(in crate::schedule) fn placed(&self, slot: Slot) -> Placed {
        self.rides[slot as usize].unwrap_or_else(|| unreachable!("a slot in use"))
    }

    /// A ride in use that is not fixed, the `n`th from some slot on.
    pub(in crate::schedule) fn some_free(&self, from: usize) -> Option<Slot> {
        let n = self.rides.len();
        (0..n.min(64)).map(|k| (from + k) % n).find(|&s| self.rides[s].is_some_and(|p| !p.fixed)).map(|s| s as Slot)
    }

    pub(in crate::schedule) fn slots(&self) -> usize {
        self.rides.len()
    }

    pub(in crate::schedule) fn score(&self) -> i64 {
        self.worth - SHORT * self.short_of
    }

    /// The score with what a ride too few counts for now.
    pub(super) fn softened(&self) -> i64 {
        self.worth - self.short_cost * self.short_of
    }

    /// What the next ride of a work adds, riders' cost aside.
    pub(in crate::schedule) fn gain(&self, w: Ix) -> i64 {
        self.worth_of(w, self.of_work[w].len() + 1) + self.short_cost * self.next_is_needed(w)
    }

    /// What taking one ride of a work out loses, its rider's cost aside.
    fn loss(&self, w: Ix) -> i64 {
        self.worth_of(w, self.of_work[w].len()) + self.short_cost * self.last_is_needed(w)
    }

    /// What the `nth` ride of a work is worth, counted from one.
    fn worth_of(&self, w: Ix, nth: usize) -> i64 {
        nth.checked_sub(1).and_then(|n| self.week.works[w].worth.get(n)).copied().unwrap_or(0)
    }

    /// One where the work's horse has fewer rides than its least, else none.
    fn next_is_needed(&self, w: Ix) -> i64 {
        let h = self.week.works[w].horse;
        i64::from(self.of_horse[h].len() < usize::from(self.week.horses[h].least))
    }

    /// One where the work's horse has its least or fewer, else none.
    fn last_is_needed(&self, w: Ix) -> i64 {
        let h = self.week.works[w].horse;
        i64::from(self.of_horse[h].len() <= usize::from(self.week.horses[h].least))
    }

    /// What taking this ride out would lose.
    pub(in crate::schedule) fn value(&self, slot: Slot) -> i64 {
        let p = self.placed(slot);
        self.loss(p.ride.work) - p.cost
    }

    pub(in crate::schedule) fn put(&mut self, p: Placed) -> Slot {
        let slot = self.empty.pop().unwrap_or_else(|| {
            self.rides.push(None);
            (self.rides.len() - 1) as Slot
        });
        self.rides[slot as usize] = Some(p);
        self.short_of -= self.next_is_needed(p.ride.work);
        self.worth += self.worth_of(p.ride.work, self.of_work[p.ride.work].len() + 1) - p.cost;
        let work = &self.week.works[p.ride.work];
        let day = usize::from(p.ride.day);
        let (riders, places) = (self.units_of(p.ride.rider, p.ride), self.units_of(p.ride.place, p.ride));
        self.riders[riders].fill(slot);
        let (from, to) = self.stretch(p.ride);
        bits::fill(self.bits_of(p.ride.rider, p.ride.day), from, to);
        let at_once = self.week.places[p.ride.place].at_once;
        for (n, unit) in places.zip(from..) {
            self.places[n] += 1;
            if self.places[n] >= at_once {
                self.full[(p.ride.place * DAYS + day) * self.words + unit / 64] |= 1 << (unit % 64);
            }
        }
        self.there[p.ride.place * DAYS + day].push(slot);
        self.on_day[work.horse * DAYS + day].push(slot);
        self.load[work.horse][day] += work.load;
        self.of_horse[work.horse].push(slot);
        self.of_work[p.ride.work].push(slot);
        if work.cows > 0 {
            self.with_cows[day].push(slot);
            self.cows[day] += u32::from(work.cows);
        }
        slot
    }

    pub(in crate::schedule) fn take(&mut self, slot: Slot) -> Placed {
        let p = self.placed(slot);
        let work = &self.week.works[p.ride.work];
        let day = usize::from(p.ride.day);
        self.short_of += self.last_is_needed(p.ride.work);
        self.worth -= self.worth_of(p.ride.work, self.of_work[p.ride.work].len()) - p.cost;
        self.rides[slot as usize] = None;
        self.empty.push(slot);
        let (riders, places) = (self.units_of(p.ride.rider, p.ride), self.units_of(p.ride.place, p.ride));
        self.riders[riders].fill(NONE);
        let (from, to) = self.stretch(p.ride);
        bits::clear(self.bits_of(p.ride.rider, p.ride.day), from, to);
        let at_once = self.week.places[p.ride.place].at_once;
        for (n, unit) in places.zip(from..) {
            self.places[n] -= 1;
            if self.places[n] < at_once {
                self.full[(p.ride.place * DAYS + day) * self.words + unit / 64] &= !(1 << (unit % 64));
            }
        }
        drop_from(&mut self.there[p.ride.place * DAYS + day], slot);
        drop_from(&mut self.on_day[work.horse * DAYS + day], slot);
        self.load[work.horse][day] -= work.load;
        drop_from(&mut self.of_horse[work.horse], slot);
        drop_from(&mut self.of_work[p.ride.work], slot);
        if work.cows > 0 {
            drop_from(&mut self.with_cows[day], slot);
            self.cows[day] -= u32::from(work.cows);
        }
        p
    }

    fn bits_of(&mut self, rider: Ix, day: u8) -> &mut [u64] {
        let at = rider * DAYS + usize::from(day);
        self.longest[at] = None;
        &mut self.busy[at * self.words..(at + 1) * self.words]
    }

    /// Whether a rider's day has any free stretch that is long enough.
    pub(in crate::schedule) fn has_stretch(&mut self, group: &Group, length: usize) -> bool {
        let at = usize::from(group.rider) * DAYS + usize::from(group.day);
        let words = at * self.words..(at + 1) * self.words;
        let (open, busy) = (&self.open[words.clone()], &self.busy[words]);
        let longest =
            *self.longest[at].get_or_insert_with(|| bits::longest(open.iter().zip(busy).map(|(o, b)| o & !b)));
        usize::from(longest) >= length
    }

    /// Units of the two longest free stretches of a rider's day.
    pub(in crate::schedule) fn longest_two(&self, rider: Ix, day: u8) -> (usize, usize) {
        let at = (rider * DAYS + usize::from(day)) * self.words;
        let is_free = |unit: usize| {
            let (word, bit) = (at + unit / 64, unit % 64);
            (self.open[word] & !self.busy[word]) >> bit & 1 == 1
        };
        let (mut long, mut short, mut run) = (0, 0, 0);
        for unit in 0..=self.units {
            if unit < self.units && is_free(unit) {
                run += 1;
                continue;
            }
            (long, short) = if run > long { (run, long) } else { (long, short.max(run)) };
            run = 0;
        }
        (long, short)
    }

    /// The units of its day that a ride takes up. One that was put outside of everyone's hours takes up none: nobody else is there.
    pub(in crate::schedule) fn stretch(&self, ride: Ride) -> (usize, usize) {
        let (from, to) = self.grid.around(ride.start, ride.start + self.week.works[ride.work].minutes);
        (from.min(self.units), to.min(self.units))
    }

    /// Loads of a horse as they stand, the day before the week first.
    pub(in crate::schedule) fn loads(&self, h: Ix) -> [u32; DAYS + 1] {
        std::array::from_fn(|d| if d == 0 { self.eve[h] } else { self.load[h][d - 1] })
    }

    /// The rides of a rider on a day that are not fixed, by the grid.
    pub(in crate::schedule) fn day_of(&self, rider: Ix, day: u8, out: &mut Vec<Slot>) {
        out.clear();
        let base = (rider * DAYS + usize::from(day)) * self.units;
        let mut last = NONE;
        for &slot in &self.riders[base..base + self.units] {
            if slot != NONE && slot != last && !self.placed(slot).fixed {
                out.push(slot);
            }
            last = slot;
        }
    }

    /// The starts of a group at which rider and place are free, and the rider's free units, hours' edges taken in.
    pub(in crate::schedule) fn free_starts(&self, w: Ix, group: &Group, starts: &mut Vec<u64>, free: &mut Vec<u64>) {
        let rider = (usize::from(group.rider) * DAYS + usize::from(group.day)) * self.words;
        let place = (usize::from(group.place) * DAYS + usize::from(group.day)) * self.words;
        let (busy, full) = (&self.busy[rider..rider + self.words], &self.full[place..place + self.words]);
        starts.clear();
        starts.extend(busy.iter().zip(full).map(|(b, f)| !(b | f)));
        bits::runs(starts, self.length(w));
        starts.iter_mut().zip(&group.starts).for_each(|(s, g)| *s &= g);
        free.clear();
        free.extend(busy.iter().zip(&self.shut[rider..rider + self.words]).map(|(b, s)| !(b | s)));
    }

    /// Units that a ride of a work lasts.
    pub(in crate::schedule) fn length(&self, w: Ix) -> usize {
        usize::from(self.week.works[w].minutes.div_ceil(self.grid.unit))
    }

    /// The units that a ride takes up in the table of riders or of places.
    pub(in crate::schedule) fn units_of(&self, ix: Ix, ride: Ride) -> std::ops::Range<usize> {
        let base = (ix * DAYS + usize::from(ride.day)) * self.units;
        let (from, to) = self.stretch(ride);
        base + from..base + to
    }

    /// Whether a work can be ridden on a day at all as things stand: the horse's day, loads, gaps, cows.
    pub(in crate::schedule) fn day_fits(&self, w: Ix, day: u8) -> bool {
        let work = &self.week.works[w];
        let horse = &self.week.horses[work.horse];
        let d = usize::from(day);
        let load = &self.load[work.horse];
        let near = |slot: &Slot| self.placed(*slot).ride.day.abs_diff(day) < work.gap_days;
        self.of_work[w].len() < work.worth.len()
            && self.of_horse[work.horse].len() < usize::from(horse.most)
            && self.on_day[work.horse * DAYS + d].is_empty()
            && load.iter().sum::<u32>() + work.load <= horse.week
            && (d == 0 || load[d - 1] + work.load <= horse.two_days)
            && (d != 0 || self.eve[work.horse] + work.load <= horse.two_days)
            && (d + 1 == DAYS || load[d + 1] + work.load <= horse.two_days)
            && (work.cows == 0 || self.cows[d] + u32::from(work.cows) <= u32::from(self.week.cows[d]))
            && !self.of_work[w].iter().any(near)
    }

    /// Whether rider and place are free for it.
    pub(in crate::schedule) fn time_fits(&self, w: Ix, c: Choice) -> bool {
        let ride = c.ride(w);
        let at_once = self.week.places[ride.place].at_once;
        self.riders[self.units_of(ride.rider, ride)].iter().all(|s| *s == NONE)
            && self.places[self.units_of(ride.place, ride)].iter().all(|n| *n < at_once)
    }
}

/// Units outside the hours of each rider and day, as bits.
fn shut(week: &WeekProblem, grid: TimeGrid, units: usize) -> Vec<u64> {
    let mut out = vec![];
    for rider in &week.riders {
        for day in 0..DAYS {
            let mut bits = bits::full(units);
            for span in rider.hours.iter().filter(|s| usize::from(s.day) == day) {
                let (from, to) = grid.inside(span.from, span.to);
                bits::clear(&mut bits, from, to.max(from));
            }
            out.extend(bits);
        }
    }
    out
}

/// Units with any part inside the hours of each rider and day, as bits.
fn open(week: &WeekProblem, grid: TimeGrid, units: usize, words: usize) -> Vec<u64> {
    let mut out = vec![];
    for rider in &week.riders {
        for day in 0..DAYS {
            let mut bits = vec![0; words];
            for span in rider.hours.iter().filter(|s| usize::from(s.day) == day) {
                let (from, to) = grid.around(span.from, span.to);
                bits::fill(&mut bits, from, to.min(units));
            }
            out.extend(bits);
        }
    }
    out
}

/// Units of each place and day that hold nothing at all.
fn full(week: &WeekProblem, words: usize, units: usize) -> Vec<u64> {
    let of = |p: &crate::schedule::Place| if p.at_once == 0 { bits::full(units) } else { vec![0; words] };
    week.places.iter().flat_map(|p| std::iter::repeat_n(of(p), DAYS)).flatten().collect()
}

fn drop_from(list: &mut Vec<Slot>, slot: Slot) {
    if let Some(at) = list.iter().position(|s| *s == slot) {
        list.swap_remove(at);
    }
}
