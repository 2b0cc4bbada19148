// People at the HTTP API, for the runs of `npm run prove`.

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

class Visitor {
  #cookie = '';
  #address;

  constructor(address) {
    this.#address = address;
  }

  async call(method, path, body, headers = {}) {
    const json = body !== undefined && !(body instanceof FormData);
    const response = await fetch(`${this.#address}/api/v1${path}`, {
      method,
      headers: { cookie: this.#cookie, ...(json ? { 'content-type': 'application/json' } : {}), ...headers },
      body: body === undefined ? undefined : json ? JSON.stringify(body) : body,
    });
    const [cookie] = response.headers.getSetCookie();
    if (cookie !== undefined) this.#cookie = cookie.split(';')[0];
    const text = await response.text();
    return {
      status: response.status,
      body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text,
    };
  }

  /** The status of an answer to a body as it is; the answer is not read, since a stream of events never ends. */
  async status(method, path, body) {
    const response = await fetch(`${this.#address}/api/v1${path}`, {
      method,
      headers: {
        cookie: this.#cookie,
        ...(typeof body === 'string' ? { 'content-type': 'application/json' } : {}),
      },
      body,
      signal: AbortSignal.timeout(60_000),
    });
    await response.body?.cancel();
    return response.status;
  }

  /** A stream of events that is kept open and read. */
  stream(path) {
    const ended = new AbortController();
    const open = fetch(`${this.#address}/api/v1${path}`, {
      headers: { cookie: this.#cookie },
      signal: ended.signal,
    }).then((response) => {
      if (!response.ok) throw new Error(`a stream was refused with ${response.status}`);
      void response.body.pipeTo(new WritableStream()).catch(() => undefined);
    });
    return { open, close: () => ended.abort() };
  }

  upload(path, name, text, headers) {
    const form = new FormData();
    form.set('file', new Blob([text]), name);
    return this.call('POST', path, form, headers);
  }

  async signUp(name, number) {
    const email = `${name}.${number}@prove.example`;
    await this.call('POST', '/people', {
      email,
      name: `${name} ${number}`,
      password: 'ten letters and more',
    });
    return this;
  }
}

async function until(ask, done) {
  for (let i = 0; i < 600; i++) {
    const answer = await ask();
    if (done(answer)) return answer;
    await pause(200);
  }
  throw new Error('waited two minutes in vain');
}

/** Classes that depend on no part of an identifier: the audit of the pack would find that. */
const label = (row) => ((Math.imul(row ^ (row >>> 7), 0x9e3779b1) >>> 8) % 3 === 0 ? 'yes' : 'no');

const SCHEME = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10 };

/** A second question, for a model. */
export const MODEL = {
  id: 'q2',
  kind: 'model',
  title: 'Hand in your model',
  text: '',
  metric: 'accuracy',
  scheme: SCHEME,
  values: {
    takes: 'any',
    link: 'logit',
    without: [],
    features: 'kept',
    coefficients: 'ignored',
    overfitted: 100,
  },
};

/** A course with one released exercise on a table of so many rows, half of them held out. */
export async function releasedExercise(address, name, rows, more = []) {
  const instructor = await new Visitor(address).signUp(name, 0);
  const { body: made } = await instructor.call('POST', '/courses', { name, timeZone: 'UTC' });
  const course = `/courses/${made.id}`;
  const lines = Array.from({ length: rows }, (_, row) => `c${row},${(row * 37) % 1013},${label(row)}`);
  await instructor.upload(`${course}/data-sets`, 'cases.csv', `id,x,y\n${lines.join('\n')}\n`);
  const { body: list } = await until(
    () => instructor.call('GET', `${course}/data-sets`),
    ({ body }) => body.dataSets.length > 0,
  );
  const dataSet = `${course}/data-sets/${list.dataSets[0].id}`;
  await instructor.call('PUT', `${dataSet}/roles`, {
    target: 'y',
    task: 'binary',
    positive: 'yes',
    identifier: 'id',
    group: null,
    withheld: [],
  });
  const { body: split } = await instructor.call('POST', `${dataSet}/splits`, {
    kind: 'draw',
    values: { sized: 'percent', training: 50, validation: 0, heldout: 50, stratify: 'y', group: '', seed: 1 },
  });
  const { path, detail } = await released({ instructor, course, splitId: split.id, more });
  const { body: file } = await instructor.call('GET', `${path}/questions/${detail.sheets[0].id}/rules`);
  const { body: about } = await instructor.call('GET', course);
  return {
    instructor,
    course,
    dataSet,
    splitId: split.id,
    path,
    identifiers: file.rules.identifiers,
    joinCode: about.joinCode,
  };
}

/** A released exercise on a split. */
export async function released({ instructor, course, splitId, more = [] }) {
  const { body: exercise } = await instructor.call('POST', `${course}/exercises`, {
    splitId,
    title: 'Predict y',
    brief: '',
    questions: [
      {
        id: 'q1',
        kind: 'predictions',
        title: 'Predict y',
        text: '',
        metric: 'accuracy',
        scheme: SCHEME,
      },
      ...more,
    ],
    attempts: 1000,
    counts: 'best',
    deadline: new Date(Date.now() + 24 * 3600 * 1000).toISOString(),
    feedback: 'rounded',
  });
  const path = `${course}/exercises/${exercise.id}`;
  await instructor.call('POST', `${path}/release`, { reason: 'The table is made up for this run.' });
  const { body: detail } = await until(
    () => instructor.call('GET', path),
    ({ body }) => body.state === 'released',
  );
  return { path, detail };
}

export async function joined(address, { joinCode }, name, number) {
  const student = await new Visitor(address).signUp(name, number);
  await student.call('POST', '/courses/join', { code: joinCode });
  return student;
}

/** A file that is right but for some rows, other ones in each file. */
export const fileOf = (identifiers, salt) =>
  `id,prediction\n${identifiers
    .map((id, i) => `${id},${(i * 7 + salt) % 11 === 0 ? 'no' : label(Number(id.slice(1)))}`)
    .join('\n')}\n`;

/** Sends a file until it is acknowledged, always with the same key, as a browser would that lost its line. */
export async function sendUntilTaken(student, path, text, key) {
  for (;;) {
    try {
      const { status, body } = await student.upload(`${path}/submissions`, 'mine.csv', text, {
        'idempotency-key': key,
      });
      if (status === 202 || status === 200) return body.id;
      if (status !== 503) throw new Error(`${status} ${body.title}`);
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
    }
    await pause(500);
  }
}
