import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "../src/api/client";
import type { AnyChange, Command, DesignOut, EditOut } from "../src/api/types";
import type { Change } from "../src/design/changes";
import { EditQueue } from "../src/design/EditQueue";

const ON = "2028-12-31";

function site(name: string): Change {
  return { part: "sites", key: "here", value: { id: "here", name } };
}

function start(): DesignOut {
  const document = { sites: [{ id: "here", name: "as it was" }], routes: [], opening: [] };
  return { id: 1, revision: 1, document, versions: { sites: { here: 1 } } } as unknown as DesignOut;
}

function refused(type: string, status: number, more: object = {}): ProblemError {
  return new ProblemError({ type, title: `refused as ${type}`, status, ...more });
}

interface Asked {
  changes: AnyChange[];
  what: string;
  undoes: number | null;
  answer: () => void;
  fail: (error: Error) => void;
}

/** A queue before a server that answers when the test lets it, and counts as a server does. */
function world() {
  let shown: DesignOut = start();
  let stored: DesignOut = start();
  const asked: Asked[] = [];
  const commands: { command: Command; seen: DesignOut["versions"]; answer: () => void }[] = [];
  const made = (changes: readonly AnyChange[]): EditOut => {
    const answers = changes.map((one) => {
      const { part, key, value } = one as { part: "sites"; key: string; value: { id: string; name: string } };
      const before = stored.document.sites?.find((entry) => entry.id === key) ?? null;
      const version = (stored.versions[part]?.[key] ?? 0) + 1;
      const sites = [...(stored.document.sites ?? []).filter((entry) => entry.id !== key), value];
      stored = {
        ...stored,
        revision: stored.revision + 1,
        document: { ...stored.document, sites },
        versions: { ...stored.versions, [part]: { ...stored.versions[part], [key]: version } },
      };
      return { part, key, version, place_before: 0, before, after: value };
    });
    return {
      revision: stored.revision,
      made: answers,
      consequences: { on: ON },
    } as unknown as EditOut;
  };
  const ports = {
    design: () => shown,
    show: (change: (before: DesignOut) => DesignOut) => {
      shown = change(shown);
    },
    fetchAnew: vi.fn(async () => {
      shown = stored;
    }),
    keep: vi.fn(),
    on: () => ON,
    settled: () => Promise.resolve(),
    postChanges: (changes: AnyChange[], _on: string, what: string, undoes: number | null) =>
      new Promise<EditOut>((resolve, reject) => {
        asked.push({ changes, what, undoes, answer: () => resolve(made(changes)), fail: reject });
      }),
    postCommand: (command: Command, seen: DesignOut["versions"]) =>
      new Promise<EditOut>((resolve) => {
        const change = { ...site("by the server"), seen: null } as unknown as AnyChange;
        commands.push({ command, seen, answer: () => resolve(made([change])) });
      }),
    nextTry: vi.fn(() => Promise.resolve()),
  };
  const queue = new EditQueue(ports);
  return {
    queue,
    ports,
    asked,
    commands,
    name: () => shown.document.sites?.[0]?.name,
    stored: () => stored.document.sites?.[0]?.name,
    /** Somebody else saves something. */
    byAnother: (name: string) => made([{ ...site(name), seen: null } as unknown as AnyChange]),
  };
}

/** Until all that can happen now has happened. */
async function rest(): Promise<void> {
  for (let turn = 0; turn < 20; turn += 1) await Promise.resolve();
}

describe("the order of edits", () => {
  it("asks for one after another, each with the version that the one before led to", async () => {
    const { queue, asked, name, stored } = world();
    const both = [queue.edit([site("one")], "one"), queue.edit([site("two")], "two")];
    await rest();
    expect(name()).toBe("two");
    expect(asked.map((one) => one.what)).toEqual(["one"]);
    asked[0]?.answer();
    await rest();
    expect(name()).toBe("two"); // the answer to the first does not take back what is on its way
    expect(asked[1]?.changes[0]).toMatchObject({ seen: 2 });
    asked[1]?.answer();
    expect(await Promise.all(both)).toEqual([true, true]);
    expect(stored()).toBe("two");
    expect(queue.snapshot().saveState).toEqual({ state: "saved", what: "Saved: two" });
  });

  it("tells its listeners of each state, until they leave", async () => {
    const { queue, asked } = world();
    const heard = vi.fn();
    const leave = queue.subscribe(heard);
    const saving = queue.edit([site("one")], "one");
    await rest();
    expect(queue.snapshot().saveState.state).toBe("saving");
    asked[0]?.answer();
    await saving;
    const times = heard.mock.calls.length;
    expect(times).toBeGreaterThan(1);
    leave();
    queue.undo();
    expect(heard).toHaveBeenCalledTimes(times);
  });
});

describe("what cannot get through", () => {
  it("is kept and sent again, the same", async () => {
    const { queue, asked, ports, stored } = world();
    const saving = queue.edit([site("one")], "one");
    await rest();
    asked[0]?.fail(refused("offline", 0));
    await rest();
    expect(ports.nextTry).toHaveBeenCalledOnce();
    expect(asked[1]?.changes).toEqual(asked[0]?.changes);
    asked[1]?.answer();
    expect(await saving).toBe(true);
    expect(stored()).toBe("one");
  });

  it("waits while the session is over, and says why", async () => {
    const { queue, asked, ports, name } = world();
    let signIn = () => undefined as undefined;
    ports.nextTry.mockImplementation(
      () =>
        new Promise((resolve) => {
          signIn = () => resolve(undefined) as undefined;
        }),
    );
    void queue.edit([site("one")], "one");
    await rest();
    asked[0]?.fail(refused("urn:rested-shelf:problem:signed-out", 401));
    await rest();
    expect(queue.snapshot().saveState).toMatchObject({ state: "waiting" });
    expect(name()).toBe("one");
    signIn();
    await rest();
    expect(asked).toHaveLength(2);
  });
});

describe("what is refused", () => {
  it("is taken back, and what was edited since stays shown and is asked for", async () => {
    const { queue, asked, name, ports } = world();
    const first = queue.edit([site("bad")], "bad");
    const second = queue.edit([site("good")], "good");
    await rest();
    asked[0]?.fail(refused("unsound", 422, { faults: [{ path: "name", message: "expected a name" }] }));
    expect(await first).toBe(false);
    expect(ports.fetchAnew).toHaveBeenCalledOnce();
    expect(name()).toBe("good");
    expect(queue.whyRefused()).toBe("expected a name");
    await rest();
    asked[1]?.answer();
    expect(await second).toBe(true);
    expect(queue.snapshot().undoWhat).toBe("good");
  });

  it("leaves nothing of itself to be undone", async () => {
    const { queue, asked, name } = world();
    const saving = queue.edit([site("bad")], "bad");
    await rest();
    asked[0]?.fail(refused("unsound", 422));
    await saving;
    expect(name()).toBe("as it was");
    expect(queue.snapshot()).toMatchObject({ undoWhat: null, saveState: { state: "failed" } });
  });
});

describe("what came too late", () => {
  const entries = [
    { part: "sites", key: "here", version: 2, who: "nils", seen: null, now: null, wanted: null },
  ];

  async function conflicting() {
    const here = world();
    here.byAnother("theirs");
    const saving = here.queue.edit([site("mine")], "mine");
    await rest();
    here.asked[0]?.fail(refused("urn:rested-shelf:problem:stale", 409, { entries }));
    await saving;
    return here;
  }

  it("shows theirs and asks; with mine in its place it is sent on what is there now", async () => {
    const { queue, asked, name, stored } = await conflicting();
    expect(name()).toBe("theirs");
    expect(queue.snapshot().conflict).toMatchObject({ what: "mine" });
    queue.settle(true);
    await rest();
    expect(queue.snapshot().conflict).toBeNull();
    expect(asked[1]?.changes[0]).toMatchObject({ seen: 2, value: { name: "mine" } });
    asked[1]?.answer();
    await rest();
    expect(stored()).toBe("mine");
  });

  it("is let go of with theirs kept", async () => {
    const { queue, asked, name } = await conflicting();
    queue.settle(false);
    await rest();
    expect(asked).toHaveLength(1);
    expect(name()).toBe("theirs");
    expect(queue.snapshot()).toMatchObject({ conflict: null, saveState: { state: "idle" } });
  });
});

describe("undo", () => {
  it("takes up what was done before on another page, with the versions that it led to", async () => {
    const { queue, asked, byAnother } = world();
    const before = byAnother("of yesterday").made;
    queue.takeUp({ done: [{ revision: 2, what: "yesterday", made: before }], undone: [] });
    expect(queue.snapshot().undoWhat).toBe("yesterday");
    queue.undo();
    await rest();
    expect(asked[0]?.changes[0]).toMatchObject({ seen: 2, value: { name: "as it was" } });
    expect(asked[0]?.undoes).toBe(2);
    asked[0]?.answer();
    await rest();
    queue.redo();
    await rest();
    expect(asked[1]?.undoes).toBe(3);
    expect(asked[1]?.changes[0]).toMatchObject({ value: { name: "of yesterday" } });
  });

  it("takes up nothing once something has been done here", async () => {
    const { queue, asked } = world();
    const saving = queue.edit([site("one")], "one");
    await rest();
    queue.takeUp({ done: [{ revision: 1, what: "late", made: [] }], undone: [] });
    asked[0]?.answer();
    await saving;
    expect(queue.snapshot().undoWhat).toBe("one");
  });

  it("takes back this page's own edits, newest first, and makes them again", async () => {
    const { queue, asked, stored } = world();
    for (const name of ["one", "two"]) {
      const saving = queue.edit([site(name)], name);
      await rest();
      asked.at(-1)?.answer();
      await saving;
    }
    queue.undo();
    await rest();
    expect(asked[2]?.changes[0]).toMatchObject({ seen: 3, value: { name: "one" } });
    asked[2]?.answer();
    await rest();
    expect(queue.snapshot()).toMatchObject({ undoWhat: "one", redoWhat: "two" });
    queue.redo();
    await rest();
    asked[3]?.answer();
    await rest();
    expect(stored()).toBe("two");
    expect(queue.snapshot().redoWhat).toBeNull();
  });

  it("does not take back what somebody else made of the entry since", async () => {
    const { queue, asked, byAnother } = world();
    const saving = queue.edit([site("mine")], "mine");
    await rest();
    asked[0]?.answer();
    await saving;
    byAnother("theirs");
    queue.undo();
    await rest();
    expect(asked[1]?.changes[0]).toMatchObject({ seen: 2 }); // version 3 is theirs: the server refuses
  });
});

describe("an act that the server knows", () => {
  it("is asked for with all versions that are shown, after what is in line, and can be undone", async () => {
    const { queue, asked, commands, name } = world();
    const command: Command = { do: "take-out", part: "sites", key: "away", instead: null };
    void queue.edit([site("one")], "one");
    const acting = queue.command(command, "removed");
    await rest();
    expect(commands).toHaveLength(0);
    asked[0]?.answer();
    await rest();
    expect(commands[0]).toMatchObject({ command, seen: { sites: { here: 2 } } });
    commands[0]?.answer();
    expect(await acting).toMatchObject([{ part: "sites", key: "here", version: 3 }]);
    expect(name()).toBe("by the server");
    expect(queue.snapshot().undoWhat).toBe("removed");
  });
});

it("what is typed into cells is shown once it has been read, and says why it was not", async () => {
  const { queue, asked, name } = world();
  const cells = [{ part: "workload cells" as const, key: "w", cells: { size: "12 quarts" } }];
  const typing = queue.type(cells, "size");
  await rest();
  expect(name()).toBe("as it was");
  asked[0]?.fail(refused("unsound", 422, { faults: [{ path: "size", message: "expected a unit" }] }));
  expect(await typing).toBe("expected a unit");
});
