import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { horse, people } from "../../api/queries";
import { useKeys } from "../../parts/keys";
import { useMe } from "../../parts/me";
import type { Face } from "../../theme/tokens";
import { Big } from "./big";
import { nextCow, otherRider, type Now } from "./hands";

/** One tap changes the rider to the one who is likeliest to get on, and one the cow to the next. */
export function QuickHands(props: {
  ride: Schemas["RideDetail"];
  now: Now;
  cattle: boolean;
  face: Face;
  onChange: (now: Now) => void;
}) {
  const { ride, now, face } = props;
  const me = useMe();
  const all = useQuery(people()).data?.items ?? [];
  const usual = useQuery(horse(ride.horse_id)).data?.usual_rider_id ?? null;
  const riding = now.riderId ?? ride.rider_id;
  const [seen, setSeen] = useState<{ riding: string; before: string | null }>({ riding, before: null });
  if (seen.riding !== riding) setSeen({ riding, before: seen.riding });
  const other = otherRider(riding, seen.before, me.id, usual, all);
  const hand = () =>
    other &&
    props.onChange({ ...now, riderId: other.id === ride.rider_id ? null : other.id, riderName: other.name });
  const cow = () => props.onChange({ ...now, cow: nextCow(now.cow) });
  useKeys({ r: () => hand(), k: () => props.cattle && cow() });
  return (
    <>
      {props.cattle && (
        <Big
          face={face}
          onClick={cow}
          label={now.cow ? `Cow ${now.cow}: on to the next` : "First cow"}
          hint="K"
        >
          {now.cow ? `Cow ${now.cow}` : "Cow 1?"}
        </Big>
      )}
      {other && (
        <Big face={face} onClick={hand} label={`${other.name} rides from here`} hint="R">
          {`To ${other.name.split(" ")[0] ?? ""}`}
        </Big>
      )}
    </>
  );
}
