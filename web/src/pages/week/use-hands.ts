import { useEffect, useState } from "react";
import type { Lane, Spot } from "./spots";
import { known } from "./known";
import { nextOf, shifted, swapped } from "./moves";
import { keyOf, type Ride, type useWeek, type Week } from "./use-week";

type Edit = Pick<ReturnType<typeof useWeek>, "change" | "add">;

/** What is picked and carried in the week, and what mouse and keys do with it. */
export function useHands(week: Week | undefined, edit: Edit, by: Lane, mayChange: boolean) {
  const [selected, setSelected] = useState<string | null>(null);
  const [swap, setSwap] = useState<string | null>(null);
  const [carrying, setCarrying] = useState<string | null>(null);
  // A ride that moved by a key keeps the focus, wherever it went.
  useEffect(() => {
    const all = selected ? document.querySelectorAll<HTMLElement>("[data-ride]") : [];
    [...all].find((it) => it.dataset.ride === selected)?.focus();
  }, [selected, week?.rides]);

  const rides = week?.rides ?? [];
  const find = (key: string | null) => rides.find((r) => keyOf(r) === key);
  const letGo = () => {
    setSelected(null);
    setSwap(null);
    setCarrying(null);
  };
  const keep = (all: Ride[], now: Ride) => {
    edit.change(all);
    setSelected(keyOf(now));
  };

  /** What can be done with a ride. */
  const on = (week: Week, r: Ride) => {
    const replace = (now: Ride) =>
      keep(
        rides.map((x) => (x === r ? now : x)),
        now,
      );
    return {
      lock: () => replace({ ...r, locked: !r.locked }),
      drop: () => (edit.change(rides.filter((x) => x !== r)), setSelected(null)),
      swap: () => setSwap(swap ? null : keyOf(r)),
      later: (slots: number) => replace(shifted(week, r, 0, slots)),
      day: (days: number) => replace(shifted(week, r, days, 0)),
      rider: () =>
        replace({
          ...r,
          rider: nextOf(
            week.riders.map((x) => x.id),
            r.rider,
          ),
        }),
      place: () => replace({ ...r, place: nextOf(known(week.works, r.work)?.places ?? [], r.place) }),
    };
  };

  const select = (key: string) => {
    const [one, other] = [find(swap), find(key)];
    if (!one || !other || one === other) return setSelected(key);
    const [a, b] = swapped(one, other);
    setSwap(null);
    keep(
      rides.map((r) => (r === one ? a : r === other ? b : r)),
      a,
    );
  };

  const press = (key: string, event: React.KeyboardEvent) => {
    const ride = find(key);
    if (!week || !ride || !mayChange || ride.ridden) return;
    const does = on(week, ride);
    const acts: Record<string, () => void> = {
      ArrowLeft: () => does.day(-1),
      ArrowRight: () => does.day(1),
      ArrowUp: () => does.later(-1),
      ArrowDown: () => does.later(1),
      l: does.lock,
      r: does.rider,
      e: does.place,
      x: does.swap,
      Delete: does.drop,
      Backspace: does.drop,
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    setSelected(key);
    act();
  };

  const put = async ({ day, lane }: Spot) => {
    if (!week || !carrying || day < week.first_open) return;
    setCarrying(null);
    const carried = find(carrying);
    if (carried?.ridden) return;
    const where = by === "rider" ? { rider: lane } : { place: lane as Ride["place"] };
    if (carried) {
      const now = { ...carried, day, ...where };
      return keep(
        rides.map((r) => (r === carried ? now : r)),
        now,
      );
    }
    const made = await edit.add(carrying, day, where);
    if (made) setSelected(keyOf(made));
  };

  return { selected, swap, carrying, setCarrying, find, letGo, on, select, press, put };
}
