"use strict";
(async () => {
  const packed = Uint8Array.from(atob(document.getElementById("data").textContent.trim()), (c) => c.charCodeAt(0));
  const unpacked = new Blob([packed]).stream().pipeThrough(new DecompressionStream("gzip"));
  const data = JSON.parse(await new Response(unpacked).text());

  const STATES = ["works at once", "after switching a role on", "blocked", "denied", "its time is over"];
  const STATE_CLASS = ["live", "request", "blocked", "denied", "lapsed"];
  const LEVELS = ["", "some columns", "read", "change", "own"];
  const MANNERS = ["works", "request", "blocked", "denied", "lapsed", "comes", "goes"];
  const MOST = 400;

  const people = data.principals.map(([name, user, note], id) => ({ name, user: user === 1, note, id, up: [], down: [] }));
  const things = data.things.map(([path, kind, schema], id) => ({ path, kind, schema, id, rights: [], held: [], around: [], sees: [] }));
  data.members.forEach(([member, role, switching, admin]) => {
    people[member].up.push({ other: people[role], switching, admin });
    people[role].down.push({ other: people[member], switching, admin });
  });
  things.forEach((thing) => { thing.columns = (data.columns[thing.id] || []).map((word) => data.words[word][0]); });
  const triples = (list, take) => { for (let i = 0; i < list.length; i += 3) take(list[i], list[i + 1], list[i + 2]); };
  people.forEach((one) => {
    one.rights = [];
    one.held = [];
    one.sees = new Map();
    const rights = data.rights[one.id] || [];
    for (let i = 0; i < rights.length; i += 2) {
      const right = { who: one, thing: things[rights[i]], words: data.words[rights[i + 1]] };
      one.rights.push(right);
      right.thing.rights.push(right);
    }
    triples(data.held[one.id] || [], (thing, word, state) => {
      const row = { who: one, thing: things[thing], words: data.words[word], state };
      one.held.push(row);
      row.thing.held.push(row);
    });
  });
  data.sees.forEach(([user, thing, words]) => people[user].sees.set(thing, data.words[words]));
  data.around.forEach(([thing, through, user, words, state]) =>
    things[thing].around.push({ through: data.words[through], who: people[user], words: data.words[words], state }));

  // ------------------------------------------------------------------ making what is shown
  const make = (tag, attributes, ...inside) => {
    const made = document.createElement(tag);
    Object.entries(attributes || {}).forEach(([name, value]) => {
      if (name === "on") Object.entries(value).forEach(([event, does]) => made.addEventListener(event, does));
      else if (value !== null && value !== undefined && value !== false) made.setAttribute(name, value === true ? "" : value);
    });
    inside.flat().forEach((part) => part !== null && part !== undefined && made.append(part));
    return made;
  };
  const many = (count, one, several) => count.toLocaleString("en") + " " + (count === 1 ? one : several || one + "s");
  const to = (view, name) => "#" + view + (name === undefined ? "" : "=" + encodeURIComponent(name));
  const link = (view, name, text) => make("a", { href: to(view, name) }, text === undefined ? name : text);
  const who = (one) => link(one.user ? "person" : "role", one.name);
  const what = (thing) => link("thing", thing.path);
  const stateMark = (state) => make("span", { class: "state " + STATE_CLASS[state] }, STATES[state]);

  const table = (caption, heads, rows, empty) => {
    if (rows.length === 0) return make("p", { class: "faint" }, empty || "Nothing.");
    const body = make("tbody");
    const add = (from) => rows.slice(from, from + MOST).forEach((row) =>
      body.append(make("tr", {}, row.map((cell, at) => (at === 0 ? make("th", { scope: "row" }, cell) : make("td", {}, cell))))));
    add(0);
    const box = make("div", { class: "scroll", tabindex: "0", role: "region", "aria-label": caption },
      make("table", {}, make("caption", {}, caption), make("thead", {}, make("tr", {}, heads.map((head) => make("th", { scope: "col" }, head)))), body));
    if (rows.length <= MOST) return box;
    let shown = MOST;
    const more = make("button", { type: "button", class: "more", on: { click: () => {
      add(shown);
      shown += MOST;
      if (shown >= rows.length) more.remove();
      else more.textContent = many(rows.length - shown, "more row");
    } } }, many(rows.length - shown, "more row"));
    return make("div", {}, box, more);
  };

  const SVG = "http://www.w3.org/2000/svg";
  const draw = (tag, attributes, ...inside) => {
    const made = document.createElementNS(SVG, tag);
    Object.entries(attributes).forEach(([name, value]) => made.setAttribute(name, value));
    made.append(...inside);
    return made;
  };
  const byName = (a, b) => (a < b ? -1 : a > b ? 1 : 0);
  const ABOVE = "databases and the server";
  const schemaOf = (thing) => (thing.schema < 0 ? ABOVE : data.schemas[thing.schema]);
  const count = (rows) => rows.reduce((sum, row) => sum + row.words[1], 0);
  const distinct = (rows, of) => new Set(rows.map(of)).size;

  // ------------------------------------------------------------------ ways through roles
  /** All a user or role has, itself first: what is nearest is found first. */
  const reach = (start) => {
    const from = new Map([[start, null]]);
    for (const at of from.keys()) {
      at.up.forEach((edge) => { if (!from.has(edge.other)) from.set(edge.other, { at, switching: edge.switching }); });
      if (at === start && people[0] && !from.has(people[0])) from.set(people[0], { at, switching: 0 });
    }
    return from;
  };
  const chain = (from, end) => {
    const names = [];
    for (let at = end; at && from.get(at); at = from.get(at).at) names.unshift(who(at));
    return names;
  };
  const through = (from, thing) => {
    let best = null;
    thing.rights.forEach((right) => {
      if (!from.has(right.who)) return;
      const way = chain(from, right.who);
      if (best === null || way.length < best.length) best = way;
    });
    if (best === null) return make("span", { class: "faint" }, "by what it lies in, or a power");
    if (best.length === 0) return "directly";
    return best.flatMap((name, at) => (at === 0 ? [name] : [" › ", name]));
  };

  // ------------------------------------------------------------------ the views
  const heldBySchema = (rows, one) => {
    const from = reach(one);
    const schemas = new Map();
    rows.forEach((row) => {
      const key = schemaOf(row.thing);
      if (!schemas.has(key)) schemas.set(key, []);
      schemas.get(key).push(row);
    });
    return [...schemas.keys()].sort((a, b) => (a === ABOVE) - (b === ABOVE) || byName(a, b)).map((schema) => {
      const inside = schemas.get(schema);
      const open = rows.length <= 120;
      const details = make("details", { open }, make("summary", {}, make("b", {}, schema),
        ": " + many(count(inside), "privilege") + " on " + many(distinct(inside, (row) => row.thing), "thing")));
      const fill = () => {
        if (details.querySelector("table")) return;
        details.append(table("What " + one.name + " holds in " + schema, ["thing", "kind", "privileges", "state", "through", "rows and values"],
          inside.map((row) => [what(row.thing), row.thing.kind, row.words[0], stateMark(row.state), through(from, row.thing), seen(one, row)])));
      };
      if (open) fill();
      details.addEventListener("toggle", fill);
      return details;
    });
  };
  const seen = (one, row) => (row.words[0].includes("select") && one.sees.has(row.thing.id) ? one.sees.get(row.thing.id)[0] : "");

  const title = (kind, name, ...more) => make("header", { class: "title" }, make("p", { class: "kind" }, kind), make("h1", { tabindex: "-1" }, name), ...more);
  const tree = (edges, next, seenBefore) => {
    const seenHere = seenBefore || new Set();
    return make("ul", { class: "tree" }, edges.map((edge) => {
      const again = seenHere.has(edge.other);
      seenHere.add(edge.other);
      const more = next(edge.other);
      return make("li", { class: edge.switching ? "request" : "live" }, who(edge.other),
        edge.switching ? make("span", { class: "faint" }, " after switching it on") : null,
        edge.admin ? make("span", { class: "faint" }, ", may give it to others") : null,
        more.length === 0 ? null : again ? make("span", { class: "faint" }, " (as above)") : tree(more, next, seenHere));
    }));
  };

  const named = (list, name, of) => list.find((each) => of(each) === name);
  // links from elsewhere may say a name as the server stores it
  const user = (name) => people.find((each) => each.user && each.name === name) || people.find((each) => each.user && each.name === name.toLowerCase());
  const person = (one, other) => {
    const rows = one.held;
    const shown = [title("user", one.name,
      make("p", { class: "answer" }, "Holds " + many(count(rows), "privilege") + " on " + many(distinct(rows, (row) => row.thing), "thing") + ", through " + many(reach(one).size - 1 - (people[0] ? 1 : 0), "role") + "."),
      one.note ? make("p", { class: "warn" }, one.note) : null)];
    // a list of all names would take longer to build than everything else
    const names = make("datalist", { id: "names" });
    const pick = make("input", { type: "search", id: "compare", list: "names", placeholder: "a user", value: other ? other.name : "", autocomplete: "off", on: {
      input: () => {
        const wanted = pick.value.toLowerCase();
        const hits = [];
        for (const each of people) { if (each.user && each !== one && each.name.toLowerCase().includes(wanted)) hits.push(each); if (hits.length === 12) break; }
        names.replaceChildren(...hits.map((each) => make("option", { value: each.name })));
      },
      change: () => { if (!pick.value || user(pick.value)) location.hash = to("person", one.name) + (pick.value ? "&with=" + encodeURIComponent(pick.value) : ""); } } });
    shown.push(make("p", { class: "tools" }, make("label", { for: "compare" }, "Compare with "), pick, names, " ", make("a", { href: to("graph") + "&find=" + encodeURIComponent(one.name) }, "In the picture")));
    if (other) return shown.concat(compared(one, other));
    shown.push(make("h2", {}, "Roles"), one.up.length ? tree(one.up, (role) => role.up) : make("p", { class: "faint" }, "None."));
    shown.push(make("h2", {}, "What they hold"));
    return shown.concat(rows.length ? heldBySchema(rows, one) : make("p", { class: "faint" }, "Nothing."));
  };
  const compared = (one, other) => {
    const key = (row) => row.thing.id + "\n" + row.words[0] + "\n" + row.state;
    const theirs = new Set(other.held.map(key));
    const mine = new Set(one.held.map(key));
    const only = (rows, without) => rows.filter((row) => !without.has(key(row))).map((row) => [what(row.thing), row.words[0], stateMark(row.state)]);
    const both = one.held.filter((row) => theirs.has(key(row)));
    const heads = ["thing", "privileges", "state"];
    return [
      make("h2", {}, "Only " + one.name), table("Only " + one.name, heads, only(one.held, theirs)),
      make("h2", {}, "Only " + other.name), table("Only " + other.name, heads, only(other.held, mine)),
      make("h2", {}, "Both"), table("Both", heads, both.map((row) => [what(row.thing), row.words[0], stateMark(row.state)]))];
  };
  const below = (role) => {
    const found = new Set([role]);
    for (const at of found) at.down.forEach((edge) => found.add(edge.other));
    found.delete(role);
    return [...found];
  };
  const role = (one) => {
    const members = below(one).filter((each) => each.user);
    const from = reach(one);
    const opens = [...from.keys()].flatMap((each) => (each === people[0] && one !== each ? [] : each.rights.map((right) => [what(right.thing), right.words[0], each === one ? "itself" : chain(from, each).flatMap((name, at) => (at === 0 ? [name] : [" › ", name]))])));
    return [
      title("role", one.name, make("p", { class: "answer" }, many(members.length, "user") + (one.name === "PUBLIC" ? " by name; everybody is in it." : " in it, directly or through other roles."))),
      make("p", { class: "tools" }, make("a", { href: to("graph") + "&find=" + encodeURIComponent(one.name) }, "In the picture")),
      make("h2", {}, "Who is in it"), one.down.length ? tree(one.down, (each) => each.down) : make("p", { class: "faint" }, "Nobody."),
      make("h2", {}, "Roles inside"), one.up.length ? tree(one.up, (each) => each.up) : make("p", { class: "faint" }, "None."),
      make("h2", {}, "What it opens"), table("What " + one.name + " opens", ["thing", "privileges", "through"], opens)];
  };
  /** Whether words like "select (a, b), may give it on" are about a column: they name none, or that one. */
  const names = (words, column) => {
    const open = words.indexOf("(");
    return !column || open < 0 || words.slice(open + 1, words.indexOf(")")).split(", ").includes(column);
  };
  /** Whether what somebody gets by another way has a column in it. */
  const gets = (words, column) => !column || words.split(/; |, |: /).includes(column);
  const thing = (one) => {
    const column = one.columns.includes(route.column) ? route.column : null;
    const rows = one.held.filter((row) => names(row.words[0], column) && (!column || /select|insert|update|references/.test(row.words[0])));
    const around = one.around.filter((way) => gets(way.words[0], column));
    const users = new Set(rows.map((row) => row.who).concat(around.map((way) => way.who)));
    const shown = [title(column ? "column" : one.kind, one.path + (column ? "." + column : ""), make("p", { class: "answer" }, many(users.size, "user") + " can get there" + (rows.some((row) => row.state > 1) ? ", some only on paper." : ".")))];
    shown.push(table("Who holds something on " + one.path, ["user", "privileges", "state", "through", "rows and values"],
      rows.map((row) => [who(row.who), row.words[0], stateMark(row.state), through(reach(row.who), one), seen(row.who, row)])));
    if (around.length) {
      shown.push(make("h2", {}, "Without a right on it"),
        table("Who gets its values by another way", ["user", "through", "what they get", "state"], around.map((way) => [who(way.who), way.through[0], way.words[0], stateMark(way.state)])));
    }
    if (one.columns.length) {
      shown.push(make("h2", {}, "Columns"), make("p", {}, one.columns.flatMap((name, at) => [at ? ", " : "", make("a", { href: to("thing", one.path) + "&column=" + encodeURIComponent(name) }, name)]),
        column ? [". ", link("thing", one.path, "All of it")] : []));
    }
    shown.push(make("h2", {}, "Given to"), table("Who was given something on " + one.path, ["user or role", "privileges"], one.rights.map((right) => [who(right.who), right.words[0]])));
    return shown;
  };
  const matrix = () => {
    const grid = data.matrix;
    const rows = grid.rows.map(([names, cells]) => [
      names.length <= 4 ? names.flatMap((name, at) => [at ? ", " : "", person_(name)]) : make("details", {}, make("summary", {}, many(names.length, "user")), names.flatMap((name, at) => [at ? ", " : "", person_(name)])),
      ...cells.map(([level, state, on, of, limited]) => (level === 0 ? "" : make("span", { class: "cell level" + level + " " + STATE_CLASS[state] },
        LEVELS[level], state ? ", " + STATES[state] : "", make("small", {}, [on === of ? "" : on + " of " + of, limited ? "by policy" : ""].filter((part) => part).join(", ")))))]);
    return [title("matrix", "Who can do what, by schema"), ...grid.notes.map((note) => make("p", { class: "faint" }, note)),
      table("Users by schemas", ["", ...grid.columns], rows)];
  };
  const person_ = (name) => link("person", name);
  const findings = () => {
    const kinds = new Map();
    data.findings.forEach((found) => { if (!kinds.has(found[0])) kinds.set(found[0], []); kinds.get(found[0]).push(found); });
    const most = Math.max(1, ...[...kinds.values()].map((list) => list.length));
    return [title("findings", many(data.findings.length, "finding")), data.unlooked ? make("p", { class: "faint" }, data.unlooked) : null,
      make("ul", { class: "bars" }, [...kinds].map(([kind, list]) => make("li", {}, make("a", { href: "#findings&kind=" + encodeURIComponent(kind) }, kind), make("meter", { min: 0, max: most, value: list.length, "aria-label": kind }), make("span", {}, String(list.length))))),
      ...[...kinds].filter(([kind]) => !route.kind || route.kind === kind).flatMap(([kind, list]) => [make("h2", {}, kind, make("small", {}, " " + list[0][1])), make("p", { class: "faint" }, list[0][5]),
        table(kind, ["about", "what"], list.map((found) => [[found[2] < 0 ? "" : who(people[found[2]]), found[2] >= 0 && found[3] >= 0 ? " on " : "", found[3] < 0 ? "" : what(things[found[3]])], found[4]]))])];
  };
  const gap = () => {
    const list = data.gap || [];
    const rows = (gain) => list.filter((each) => each[2] === gain).map((each) => [
      named(people, each[0], (one) => one.name) ? link("person", each[0]) : each[0] + " (new)",
      named(things, each[1], (one) => one.path) ? link("thing", each[1]) : each[1], each[3]]);
    const heads = ["user", "thing", "privilege"];
    const people_of = (gain) => many(distinct(list.filter((each) => each[2] === gain), (each) => each[0]), "user");
    return [title("gap", "What settling the charter would change", make("p", { class: "answer" }, list.length === 0 ? "Nothing: the server is as the charter says, as far as people are concerned." : people_of(1) + " gain something, " + people_of(0) + " lose something.")),
      make("h2", {}, "Gains"), table("Gains", heads, rows(1)), make("h2", {}, "Losses"), table("Losses", heads, rows(0))];
  };
  /** Users with access to each schema over time: a step at each survey that found something else. */
  const overTime = () => {
    const points = data.over_time;
    if (points.length < 2) return [];
    const schemas = [...new Set(points.flatMap((point) => Object.keys(point[1])))].sort(byName);
    const most = Math.max(1, ...points.flatMap((point) => Object.values(point[1])));
    const width = 720;
    const height = 220;
    const x = (at) => 30 + (at * (width - 60)) / (points.length - 1);
    const y = (value) => height - 24 - (value * (height - 48)) / most;
    const chart = draw("svg", { viewBox: "0 0 " + (width + 190) + " " + height, class: "chart", role: "img", "aria-label": "Users with access to each schema over time; the numbers are in the table below" });
    [0, most].forEach((value) => chart.append(draw("line", { x1: 30, x2: width - 30, y1: y(value), y2: y(value), class: "axis" }), draw("text", { x: 24, y: y(value) + 4, class: "end" }, String(value))));
    const ends = [];
    schemas.forEach((schema, nth) => {
      const values = points.map((point) => point[1][schema] || 0);
      let path = "M" + x(0) + "," + y(values[0]);
      values.slice(1).forEach((value, at) => { path += " H" + x(at + 1) + " V" + y(value); });
      chart.append(draw("path", { d: path, class: "series series" + (nth % 6) }));
      ends.push({ schema, nth, at: y(values[values.length - 1]), value: values[values.length - 1] });
    });
    ends.sort((a, b) => a.at - b.at);
    let free = 0;
    ends.forEach((end) => {
      const at = Math.max(end.at + 4, free);
      free = at + 15;
      chart.append(draw("line", { x1: width - 24, x2: width + 2, y1: at - 4, y2: at - 4, class: "series series" + (end.nth % 6) }), draw("text", { x: width + 8, y: at }, end.schema + ", " + end.value));
    });
    return [make("h2", {}, "Users with access, by schema"), make("div", { class: "scroll", tabindex: "0", role: "region", "aria-label": "the chart" }, chart),
      table("Users with access, by schema", ["survey", ...schemas], points.map((point) => [point[0], ...schemas.map((schema) => String(point[1][schema] || 0))]))];
  };
  const history = () => [title("history", "What changed"), ...overTime(), make("h2", {}, "Changes"), ...data.history.map(([when, lines]) => make("details", { open: data.history.length <= 5 }, make("summary", {}, when, " (" + many(lines.length, "line") + ")"), make("ul", {}, lines.map((line) => make("li", {}, line)))))];
  const overview = () => {
    const users = people.filter((each) => each.user);
    const number = (view, value, text) => make("li", {}, make("a", { href: to(view) }, make("b", {}, value.toLocaleString("en")), " " + text));
    return [title(data.scope ? "a part of" : "server", data.server, make("p", { class: "answer" }, data.scope ? data.scope : "Search for anybody and anything above, or begin here.")),
      make("ul", { class: "numbers" }, number("people", users.length, "users"), number("roles", people.length - users.length, "roles"), number("things", things.length, "things"), number("matrix", data.matrix.columns.length, "schemas in the matrix"), number("graph", data.figure.boxes.length, "boxes in the picture"), number("findings", data.findings.length, "findings"),
        data.gap ? number("gap", data.gap.length, "gains and losses by settling the charter") : null, data.history.length ? number("history", data.history.length, "changes in the ledger") : null)];
  };
  const people_ = (users) => [title("list", users ? "Users" : "Roles"), table(users ? "Users" : "Roles", users ? ["user", "privileges", "things", ""] : ["role", "users in it", "roles inside"],
    people.filter((each) => each.user === users).sort((a, b) => byName(a.name, b.name)).map((each) => (users
      ? [who(each), count(each.held).toLocaleString("en"), distinct(each.held, (row) => row.thing).toLocaleString("en"), each.note]
      : [who(each), String(below(each).filter((member) => member.user).length), String(each.up.length)])))];
  const things_ = () => [title("list", "Things"), table("Things", ["thing", "kind", "users"], [...things].sort((a, b) => byName(a.path, b.path)).map((each) => [what(each), each.kind, String(distinct(each.held, (row) => row.who))]))];

  // ------------------------------------------------------------------ the picture
  const graph = () => {
    const figure = data.figure;
    const picture = draw("svg", { viewBox: "0 0 " + figure.width + " " + figure.height, width: figure.width, height: figure.height, class: "graph", role: "group", "aria-label": "Roles, who is in them, and what they open" });
    const lines = figure.lines.map(([from, to_, manner, label, points, place]) => {
      const shape = draw("polyline", { points: points.map((at) => at.join(",")).join(" "), class: "line " + MANNERS[manner] });
      const [x, y] = points[points.length - 1];
      const [px, py] = points[points.length - 2];
      const turn = (Math.atan2(y - py, x - px) * 180) / Math.PI;
      const head = draw("path", { d: "M0,0 L-8,-4 L-8,4 Z", transform: "translate(" + x + "," + y + ") rotate(" + turn + ")", class: "head " + MANNERS[manner] });
      const group = draw("g", {}, shape, head);
      if (place) group.append(draw("text", { x: place[0] + 2, y: place[1] + 11, class: "label" }, label));
      picture.append(group);
      return { from, to: to_, manner, group, label };
    });
    const status = make("p", { class: "answer", role: "status" }, "Click a box, or press Enter on it: its way lights up to both sides.");
    const near = (start, away) => {
      const found = new Set([start]);
      for (const at of found) lines.forEach((line) => { if ((away ? line.from : line.to) === at) found.add(away ? line.to : line.from); });
      return found;
    };
    let boxes = [];
    const light = (on) => {
      boxes.forEach((box, at) => box.group.classList.toggle("dim", on !== null && !on.has(at)));
      lines.forEach((line) => line.group.classList.toggle("dim", on !== null && !(on.has(line.from) && on.has(line.to))));
    };
    const choose = (at) => {
      const up = near(at, false);
      const down = near(at, true);
      boxes.forEach((box, each) => box.group.setAttribute("aria-pressed", String(each === at)));
      // what lies before and what lies behind, not what lies beside
      boxes.forEach((box, each) => box.group.classList.toggle("dim", !up.has(each) && !down.has(each)));
      lines.forEach((line) => line.group.classList.toggle("dim", !(up.has(line.from) && up.has(line.to)) && !(down.has(line.from) && down.has(line.to))));
      const names = boxes[at].members;
      const view = boxes[at].shape === 0 ? "person" : boxes[at].shape === 1 ? "role" : "thing";
      status.replaceChildren(boxes[at].name + ": " + many(up.size - 1, "box", "boxes") + " before it, " + many(down.size - 1, "box", "boxes") + " behind it. ",
        ...names.slice(0, 12).flatMap((name) => [link(view, name), " "]), names.length > 12 ? "and " + (names.length - 12) + " more" : "");
    };
    boxes = figure.boxes.map(([x, y, width, height, name, small, shape, members], at) => {
      const round = shape === 0 ? height / 2 : shape === 1 ? 8 : 0;
      const middle = y + height / 2;
      const group = draw("g", { class: "box shape" + shape, tabindex: "0", role: "button", "aria-pressed": "false", "aria-label": name + (small ? ", " + small : "") },
        draw("rect", { x, y, width, height, rx: round }), draw("text", { x: x + width / 2, y: middle + (small ? -3 : 4.5), class: "name" }, name));
      if (small) group.append(draw("text", { x: x + width / 2, y: middle + 13, class: "small" }, small));
      group.addEventListener("click", () => choose(at));
      group.addEventListener("keydown", (event) => { if (event.key === "Enter" || event.key === " ") { event.preventDefault(); choose(at); } });
      picture.append(group);
      return { group, name, members, shape };
    });
    const find = make("input", { type: "search", id: "narrow", placeholder: "user, role, thing, read, change", value: route.find || "" });
    const manner = make("select", { id: "manner" }, make("option", { value: "" }, "all"), make("option", { value: "0" }, "works at once"), make("option", { value: "1" }, "after switching"));
    const narrow = () => {
      const wanted = find.value.toLowerCase();
      if (!wanted && manner.value === "") { light(null); return; }
      const on = new Set();
      boxes.forEach((box, at) => {
        if (wanted && box.members.concat(box.name).some((each) => each.toLowerCase().includes(wanted))) {
          near(at, true).forEach((each) => on.add(each));
          near(at, false).forEach((each) => on.add(each));
        } else if (!wanted) on.add(at);
      });
      // what lines say counts as well: "change" leaves who can change something
      if (wanted) lines.forEach((line) => { if (line.label.toLowerCase().includes(wanted)) { near(line.from, false).forEach((each) => on.add(each)); on.add(line.to); } });
      light(on);
      if (manner.value !== "") lines.forEach((line) => { if (String(line.manner) !== manner.value) line.group.classList.add("dim"); });
    };
    find.addEventListener("input", narrow);
    manner.addEventListener("change", narrow);
    if (route.find) setTimeout(narrow, 0);
    return [title("picture", "Roles, who is in them, and what they open"),
      make("p", { class: "tools" }, make("label", { for: "narrow" }, "Only the ways of "), find, " ", make("label", { for: "manner" }, "Lines that "), manner, " ", make("button", { type: "button", on: { click: () => { find.value = ""; manner.value = ""; light(null); } } }, "Show all")),
      status, ...figure.notes.map((note) => make("p", { class: "faint" }, note)), make("div", { class: "scroll", tabindex: "0", role: "region", "aria-label": "the picture" }, picture)];
  };

  // ------------------------------------------------------------------ where we are
  let route = {};
  const read = () => {
    const found = {};
    location.hash.slice(1).split("&").filter((part) => part).forEach((part, at) => {
      const cut = part.indexOf("=");
      const name = cut < 0 ? part : part.slice(0, cut);
      let value = cut < 0 ? "" : part.slice(cut + 1);
      try { value = decodeURIComponent(value); } catch (broken) { /* as it is */ }
      if (at === 0) { found.view = name; found.name = value; } else if (["with", "find", "kind", "column"].includes(name)) found[name] = value;
    });
    return found;
  };
  const view = () => {
    switch (route.view) {
      case "person": return user(route.name) ? person(user(route.name), route.with ? user(route.with) : null) : null;
      case "role": { const found = people.find((each) => !each.user && each.name === route.name); return found ? role(found) : null; }
      case "thing": { const found = named(things, route.name, (each) => each.path); return found ? thing(found) : null; }
      case "people": return people_(true);
      case "roles": return people_(false);
      case "things": return things_();
      case "matrix": return matrix();
      case "graph": return graph();
      case "findings": return findings();
      case "gap": return data.gap ? gap() : null;
      case "history": return data.history.length ? history() : null;
      case undefined: return overview();
      default: return null;
    }
  };
  const main = document.getElementById("view");
  const show = (move) => {
    route = read();
    const shown = view() || [title("not here", route.name || route.view || "", make("p", { class: "answer" }, "There is nothing of that name in this page. ", link("people", undefined, "All users")))];
    main.replaceChildren(...shown.filter((part) => part));
    document.querySelectorAll("nav a").forEach((each) => { if (each.getAttribute("href") === "#" + (route.view || "")) each.setAttribute("aria-current", "page"); else each.removeAttribute("aria-current"); });
    const head = main.querySelector("h1");
    document.title = (head ? head.textContent + " - " : "") + data.server;
    if (move && head) head.focus();
    window.scrollTo(0, 0);
  };
  window.addEventListener("hashchange", () => show(true));

  // ------------------------------------------------------------------ the search
  const search = document.getElementById("search");
  const list = document.getElementById("found");
  const all = people.map((each) => ({ text: each.name, kind: each.user ? "user" : "role", href: to(each.user ? "person" : "role", each.name) }))
    .concat(things.map((each) => ({ text: each.path, kind: each.kind, href: to("thing", each.path) })))
    .concat(things.flatMap((each) => each.columns.map((name) => ({ text: each.path + "." + name, kind: "column", href: to("thing", each.path) + "&column=" + encodeURIComponent(name) }))))
    .map((each) => ({ ...each, low: each.text.toLowerCase() }));
  let active = -1;
  const close = () => { list.hidden = true; search.setAttribute("aria-expanded", "false"); search.removeAttribute("aria-activedescendant"); active = -1; };
  const mark = (at) => {
    const options = list.querySelectorAll("[role=option]");
    options.forEach((option, each) => option.setAttribute("aria-selected", String(each === at)));
    active = at;
    if (options[at]) { search.setAttribute("aria-activedescendant", options[at].id); options[at].scrollIntoView({ block: "nearest" }); }
  };
  const go = (href) => { close(); search.value = ""; if (location.hash === href) show(true); else location.hash = href; };
  search.addEventListener("input", () => {
    const wanted = search.value.trim().toLowerCase();
    if (!wanted) { close(); return; }
    const hits = [];
    for (const each of all) { if (each.low.startsWith(wanted)) hits.push(each); if (hits.length === 12) break; }
    for (const each of all) { if (hits.length >= 12) break; if (!each.low.startsWith(wanted) && each.low.includes(wanted)) hits.push(each); }
    list.replaceChildren(...(hits.length ? hits.map((hit, at) => make("li", { role: "option", id: "hit" + at, "aria-selected": "false", "data-href": hit.href, on: { mousedown: (event) => { event.preventDefault(); go(hit.href); } } }, hit.text, make("small", {}, " " + hit.kind)))
      : [make("li", { role: "option", id: "hit0", "aria-selected": "false", "aria-disabled": "true" }, "nothing of that name")]));
    list.hidden = false;
    search.setAttribute("aria-expanded", "true");
    mark(hits.length ? 0 : -1);
  });
  search.addEventListener("keydown", (event) => {
    const options = list.querySelectorAll("[role=option]");
    if (event.key === "ArrowDown" && options.length) { event.preventDefault(); mark((active + 1) % options.length); }
    else if (event.key === "ArrowUp" && options.length) { event.preventDefault(); mark((active - 1 + options.length) % options.length); }
    else if (event.key === "Escape") close();
    else if (event.key === "Enter" && options[active] && options[active].dataset.href) go(options[active].dataset.href);
  });
  search.addEventListener("blur", close);
  document.addEventListener("keydown", (event) => {
    if (event.key === "/" && !/^(INPUT|SELECT|TEXTAREA)$/.test(document.activeElement.tagName)) { event.preventDefault(); search.focus(); }
  });
  document.getElementById("waiting").remove();
  const menu = document.querySelector("nav ul");
  if (data.gap) menu.append(make("li", {}, make("a", { href: "#gap" }, "gap")));
  if (data.history.length) menu.append(make("li", {}, make("a", { href: "#history" }, "history")));
  show(false);
  document.documentElement.dataset.ready = "yes";
})();
