import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { curriculumOf, horseGear, plan, ride, standing } from "../../api/queries";
import { mountedLately, rememberMounted } from "../../offline/mounted";
import { waitingFor } from "../../offline/outbox";
import { PageLoading, PageTrouble } from "../../parts/states";
import { Checks } from "./checks";
import { Pen } from "./pen";

/** A ride, full screen: first what to check, then the pads. */
export function Ride() {
  const { id = "" } = useParams();
  const client = useQueryClient();
  const it = useQuery(ride(id));
  const horse = it.data?.horse_id ?? "";
  const book = useQuery({ ...curriculumOf(horse), enabled: !!it.data });
  const known = useQuery({ ...standing(horse), enabled: !!it.data });
  const planned = useQuery(plan(id));
  const gear = useQuery({ ...horseGear(horse), enabled: !!it.data });
  const [mounted, setMounted] = useState(false);
  const wear = useMutation({
    mutationFn: (ids: string[]) =>
      ask(api.PUT("/api/rides/{id}/gear", { params: { path: { id } }, body: { gear: ids } })),
    onSuccess: () => client.invalidateQueries({ queryKey: plan(id).queryKey }),
  });
  const error = it.data ? (book.data ? (known.data ? null : known.error) : book.error) : it.error;
  if (error)
    return (
      <PageTrouble title="Couldn't load the ride" detail={error.message} again={() => void it.refetch()} />
    );
  if (!it.data || !book.data || !known.data || (planned.isPending && !planned.error))
    return <PageLoading what="the ride" />;
  const waits = (planned.data?.waits_for.length ?? 0) > 0;
  // What waits on this device was ridden too, whatever the server knows of it.
  const logged = waitingFor(id).some((item) => item.kind !== "check");
  const begun = logged || it.data.state !== "planned" || it.data.reps > 0 || mountedLately(id);
  // Whoever is in the saddle stays there, also once a pass that was all of the ride so far is sent.
  if (begun && !waits && !mounted) setMounted(true);
  if (planned.data && !mounted && (waits || !begun))
    return (
      <Checks
        ride={it.data}
        plan={planned.data}
        gear={gear.data?.items ?? []}
        onWear={(ids) => wear.mutate(ids)}
        onMount={() => {
          rememberMounted(id);
          setMounted(true);
        }}
      />
    );
  return (
    <Pen
      key={id}
      ride={it.data}
      book={book.data}
      standing={known.data}
      start={startingStep(it.data, book.data, planned.data)}
    />
  );
}

/** Where the ride goes on: at its last set, else on the first part of the plan, else on the first rung that is taught. */
function startingStep(
  r: Schemas["RideDetail"],
  book: Schemas["CurriculumOut"],
  planned: Schemas["PlanOut"] | undefined,
): Schemas["StepOut"] {
  const last = r.sets.at(-1);
  const at = last && book.steps.find((x) => x.rung === last.rung && x.gait === last.gait);
  const first = planned?.parts.find((p) => p.step)?.step;
  const taught = book.steps.find((x) => book.rungs.find((g) => g.id === x.rung)?.taught);
  const step = at ?? book.steps.find((x) => x.id === first) ?? taught;
  if (!step) throw new Error("the curriculum is empty");
  return step;
}
