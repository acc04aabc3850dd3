/** A browser's cookies and token, without a browser. */
export function visitor(base) {
  const cookies = new Map();
  let token = "";
  const call = async (method, path, body, at = base) => {
    const answer = await fetch(at + path, {
      method,
      headers: {
        cookie: [...cookies]
          .map(([name, value]) => `${name}=${value}`)
          .join("; "),
        "x-csrf-token": token,
        ...(body && { "content-type": "application/json" }),
      },
      body: body && JSON.stringify(body),
    });
    for (const set of answer.headers.getSetCookie()) {
      const [name, value] = set.split(";")[0].split("=");
      cookies.set(name, value);
    }
    return answer;
  };
  const read = async (path, at = base) => {
    const answer = await call("GET", path, undefined, at);
    if (!answer.ok) throw new Error(`${path} gives ${answer.status}`);
    return answer.json();
  };
  /** Learns the session's token, and who is signed in. */
  const learn = async () => {
    const me = await read("/api/me");
    token = me.csrf;
    return me;
  };
  return { call, read, learn };
}

/** A rep on the left of flexion. */
export const rep = (set, position) => ({
  set: { id: set, position: 0, rung: "S1", gait: "stand", side: "left" },
  position,
  outcome: "gave",
  weight: "egg",
  seconds: 1,
});

/** A ride of a new horse on today; its id. */
export async function newRide(who, me, name) {
  const [horse, ride] = [crypto.randomUUID(), crypto.randomUUID()];
  await who.call("PUT", `/api/horses/${horse}`, { name });
  const made = await who.call("PUT", `/api/rides/${ride}`, {
    horse_id: horse,
    rider_id: me.id,
    date: me.today,
    place: "arena",
    entered: "pen",
  });
  if (made.status !== 201) throw new Error(`the ride gives ${made.status}`);
  return { horse, ride };
}

/** What needs the server is tried again while it is down: some forty seconds. */
export async function insist(what) {
  for (let n = 0; ; n++) {
    try {
      return await what();
    } catch (error) {
      if (n > 60) throw error;
      await new Promise((done) => setTimeout(done, 700));
    }
  }
}
