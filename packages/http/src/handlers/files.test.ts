import { createServer, request as nodeRequest, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import {
  api,
  audience,
  bytes,
  constant,
  type DeclarationError,
  endpoint,
  entity,
  file,
  fileOf,
  given,
  integer,
  list,
  memoryStore,
  model,
  optional,
  type Store,
  shape,
  text,
  values,
} from 'gribo';
import { type Handlers, nodeListener, receive, respond, serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';

const db = model(
  {
    photo: entity('photo', {
      id: integer().key(),
      image: bytes({ max: 100_000 }).nullable(),
      mediaType: text(),
      title: text().nullable(),
    }),
  },
  {},
);
const Photo = shape(db.photo, ({ id, title }) => ({ id, title }), { name: 'Photo' });
const Image = fileOf(db.photo, (p) => ({ bytes: p.image, type: p.mediaType, name: p.title }));
const IMAGES = ['image/png', 'image/jpeg'];
const album = api({
  title: 'Album',
  version: '1',
  audiences: ['office'],
  endpoints: {
    'photos.image': endpoint('GET /photos/{id}/image', { from: db.photo, returns: Image }),
    'photos.guarded': endpoint('GET /photos/{id}/guarded', {
      from: db.photo,
      returns: fileOf(db.photo, (p) => ({
        bytes: given(audience('office'), p.image),
        type: constant('text/html'),
      })),
    }),
    'photos.set': endpoint('PUT /photos/{id}/image', {
      from: db.photo,
      files: { image: file({ types: IMAGES, max: 20_000 }) },
      returns: Photo,
    }),
    'photos.enter': endpoint('POST /photos', {
      from: db.photo,
      takes: values({
        id: integer(),
        title: optional(text({ max: 20 })),
        tags: optional(list(values({ tag: text() }))),
      }),
      files: { image: file({ types: IMAGES, max: 20_000 }), note: file({ max: 100, optional: true }) },
      returns: Photo,
    }),
  },
});

type AlbumHandlers = Handlers<typeof album>;
const put: AlbumHandlers['photos.set'] = async ({ files, key, store, load }) => {
  const { type, name } = files.image;
  await store.amend('photo', key ?? [], { image: await files.image.bytes(), mediaType: type, title: name });
  return load.row(...(key ?? []));
};
const enter: AlbumHandlers['photos.enter'] = async ({ files, input, store, load }) => {
  const note = files.note === null ? null : Buffer.from(await files.note.bytes()).toString();
  const title = [input.title ?? files.image.name, note, input.tags?.map(({ tag }) => tag).join()]
    .filter((part) => part)
    .join('/');
  await store.create('photo', {
    id: input.id,
    image: await files.image.bytes(),
    mediaType: files.image.type,
    title,
  });
  return load.row(input.id);
};

const PNG = Uint8Array.from({ length: 5000 }, (_, i) => i % 251);

describe('files', () => {
  let server: Server;
  let address = '';
  let store: Store;
  const { told, log } = keepingLog();

  beforeEach(async () => {
    store = memoryStore(db, {
      photo: [
        { id: 1, image: PNG, mediaType: 'image/png', title: 'Möwe "1".png' },
        { id: 2, image: null, mediaType: 'image/png', title: null },
        { id: 3, image: new Uint8Array(0), mediaType: 'text/html', title: null },
        { id: 4, image: PNG, mediaType: 'no type\r\nx: y', title: 'a\r\nb' },
      ],
    });
    const handle = serve(album, {
      store,
      handlers: { 'photos.set': put, 'photos.enter': enter },
      caller: (request) => ({ audience: request.headers.get('x-office') === null ? null : 'office' }),
      limits: { body: 4000 },
      log,
    });
    server = createServer(nodeListener(handle));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    told.length = 0;
  });
  afterEach(async () => {
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  });

  const ask = async (method: string, path: string, headers: Record<string, string> = {}, body?: BodyInit) => {
    const response = await fetch(address + path, {
      method,
      headers,
      ...(body === undefined ? {} : { body }),
    });
    return { response, bytes: new Uint8Array(await response.arrayBuffer()) };
  };
  const issuesOf = (content: Uint8Array) => {
    const { errors = [] } = JSON.parse(Buffer.from(content).toString()) as {
      errors?: { pointer: string; code: string }[];
    };
    return errors.map(({ pointer, code }) => `${pointer} ${code}`);
  };

  /** A form with one part, whose headers are these. */
  const formOf = (headers: readonly string[], content: string): string =>
    ['--edge', ...headers, '', content, '--edge--', ''].join('\r\n');
  const IMAGE = 'content-disposition: form-data; name="image"; filename="a.png"';
  const FORM = { 'content-type': 'multipart/form-data; boundary=edge' };

  it('are refused where they are coded: nobody would decode them', async () => {
    const zipped = { 'content-type': 'image/png', 'content-encoding': 'gzip' };
    const { response } = await ask('PUT', '/photos/1/image', zipped, PNG);
    expect([response.status, response.headers.get('accept-encoding')]).to.deep.equal([415, 'identity']);
    const part = { ...zipped, 'content-encoding': 'identity', 'content-range': 'bytes 0-9/20' };
    expect((await ask('PUT', '/photos/1/image', part, PNG)).response.status).to.equal(400);
    const sent = (coding: string) =>
      ask(
        'PUT',
        '/photos/1/image',
        FORM,
        formOf([IMAGE, 'content-type: image/png', ...(coding === '' ? [] : [coding])], 'eA=='),
      );
    expect((await sent('content-transfer-encoding: base64')).response.status).to.equal(415);
    expect((await sent('content-transfer-encoding: binary')).response.status).to.equal(200);
    expect((await sent('')).response.status).to.equal(200);
  });

  it('are refused with more headers of a part than a name needs, however they arrive', async () => {
    const long = (size: number) =>
      formOf([IMAGE, 'content-type: image/png', `x-more: ${'x'.repeat(size)}`], 'abc');
    expect((await ask('PUT', '/photos/1/image', FORM, long(15_000))).response.status).to.equal(200);
    expect((await ask('PUT', '/photos/1/image', FORM, long(17_000))).response.status).to.equal(413);
    const text = long(17_000);
    const pieces = new ReadableStream<Uint8Array>({
      start: (controller) => {
        for (let at = 0; at < text.length; at += 7) controller.enqueue(Buffer.from(text.slice(at, at + 7)));
        controller.close();
      },
    });
    const handle = serve(album, { store, handlers: { 'photos.set': put, 'photos.enter': enter } });
    const asked = { method: 'PUT', headers: FORM, body: pieces, duplex: 'half' } as const;
    expect((await handle(new Request('http://a.test/photos/1/image', asked))).status).to.equal(413);
    expect(told).to.deep.equal([]);
  });

  describe('that are sent', () => {
    it('are the bytes of a column, with their type, name and tag', async () => {
      const { response, bytes: content } = await ask('GET', '/photos/1/image');
      expect(response.status).to.equal(200);
      expect(content).to.deep.equal(PNG);
      const { headers } = response;
      expect(headers.get('content-type')).to.equal('image/png');
      expect(headers.get('content-length')).to.equal('5000');
      expect(headers.get('content-disposition')).to.match(
        /^inline; filename="M.we \\"1\\".png"; filename\*=UTF-8''M%C3%B6we/,
      );
      expect(headers.get('x-content-type-options')).to.equal('nosniff');
      expect(headers.get('content-security-policy')).to.contain('sandbox');
      const known = { 'if-none-match': headers.get('etag') ?? '' };
      expect((await ask('GET', '/photos/1/image', known)).response.status).to.equal(304);
      expect((await ask('GET', '/photos/1/image', { 'if-match': '"other"' })).response.status).to.equal(412);
      const head = await ask('HEAD', '/photos/1/image');
      expect([
        head.response.status,
        head.response.headers.get('content-length'),
        head.bytes.length,
      ]).to.deep.equal([200, '5000', 0]);
    });

    it('come in part where that is asked for', async () => {
      const part = async (range: string, more: Record<string, string> = {}) => {
        const { response, bytes: content } = await ask('GET', '/photos/1/image', { range, ...more });
        return [response.status, response.headers.get('content-range'), content.length, content[0]];
      };
      expect(await part('bytes=0-99')).to.deep.equal([206, 'bytes 0-99/5000', 100, 0]);
      expect(await part('bytes=4990-')).to.deep.equal([206, 'bytes 4990-4999/5000', 10, PNG[4990]]);
      expect(await part('bytes=-5')).to.deep.equal([206, 'bytes 4995-4999/5000', 5, PNG[4995]]);
      // The last so many of fewer are all of them.
      for (const many of ['5001', '99999999999999999999'])
        expect(await part(`bytes=-${many}`)).to.deep.equal([206, 'bytes 0-4999/5000', 5000, 0]);
      expect((await part('bytes=-0'))[0]).to.equal(416);
      expect(await part('bytes=0-9,20-29')).to.deep.equal([200, null, 5000, 0]);
      expect(await part('rows=0-9')).to.deep.equal([200, null, 5000, 0]);
      expect((await part('bytes=9000-'))[0]).to.equal(416);
      expect((await part('bytes=9000-'))[1]).to.equal('bytes */5000');
      const tag = (await ask('HEAD', '/photos/1/image')).response.headers.get('etag') ?? '';
      expect((await part('bytes=0-9', { 'if-range': tag }))[0]).to.equal(206);
      expect((await part('bytes=0-9', { 'if-range': '"old"' }))[0]).to.equal(200);
    });

    it('are not there where there are no bytes, or none for this caller', async () => {
      expect((await ask('GET', '/photos/2/image')).response.status).to.equal(404);
      expect((await ask('GET', '/photos/9/image')).response.status).to.equal(404);
      expect((await ask('GET', '/photos/1/guarded')).response.status).to.equal(404);
      const office = await ask('GET', '/photos/1/guarded', { 'x-office': '1' });
      expect([office.response.status, office.response.headers.get('content-disposition')]).to.deep.equal([
        200,
        'attachment',
      ]);
    });

    it('run nothing, and say nothing in headers that is none', async () => {
      const empty = await ask('GET', '/photos/3/image');
      expect([empty.response.status, empty.bytes.length]).to.deep.equal([200, 0]);
      expect(empty.response.headers.get('content-disposition')).to.equal('attachment');
      const odd = await ask('GET', '/photos/4/image');
      expect(odd.response.headers.get('content-type')).to.equal('application/octet-stream');
      expect(odd.response.headers.get('x')).to.equal(null);
      expect(odd.bytes.length).to.equal(5000);
      expect((await ask('GET', '/photos/1/image?fields=bytes')).response.status).to.equal(400);
    });
  });

  describe('that are taken', () => {
    it('are the body itself', async () => {
      const { response } = await ask('PUT', '/photos/2/image', { 'content-type': 'image/png' }, PNG);
      expect(response.status).to.equal(200);
      expect((await ask('GET', '/photos/2/image')).bytes).to.deep.equal(PNG);
    });

    it('or a form, with what is told beside them', async () => {
      const form = new FormData();
      form.append('id', '7');
      form.append('tags', '[{"tag":"sea"},{"tag":"gull"}]');
      form.append('image', new Blob([PNG], { type: 'image/jpeg' }), '../../gull.jpg');
      form.append('note', new Blob(['Seen at dawn.']));
      const { response, bytes: content } = await ask('POST', '/photos', {}, form);
      expect([response.status, JSON.parse(Buffer.from(content).toString())]).to.deep.equal([
        200,
        { id: 7, title: 'gull.jpg/Seen at dawn./sea,gull' },
      ]);
      expect((await ask('GET', '/photos/7/image')).bytes).to.deep.equal(PNG);
      const alone = new FormData();
      alone.append('image', new Blob([PNG], { type: 'image/png' }), 'a.png');
      expect((await ask('PUT', '/photos/2/image', {}, alone)).response.status).to.equal(200);
    });

    it('are refused where they are not of the kind', async () => {
      expect(
        (await ask('PUT', '/photos/2/image', { 'content-type': 'text/html' }, PNG)).response.status,
      ).to.equal(415);
      const none = await ask('PUT', '/photos/2/image', { 'content-type': 'application/json' }, '{}');
      expect([none.response.status, none.response.headers.get('accept')]).to.deep.equal([
        415,
        'image/png, image/jpeg, multipart/form-data',
      ]);
      expect((await ask('POST', '/photos', { 'content-type': 'image/png' }, PNG)).response.status).to.equal(
        415,
      );
      const form = new FormData();
      form.append('id', 'x');
      form.append('titel', 'a');
      form.append('image', new Blob(['<p>'], { type: 'text/html' }), 'a.html');
      form.append('nots', new Blob(['x']), 'b');
      const { response, bytes: content } = await ask('POST', '/photos', {}, form);
      expect(response.status).to.equal(422);
      expect(issuesOf(content)).to.deep.equal([
        '/id type',
        '/titel unknown',
        '/image choice',
        '/nots unknown',
      ]);
      const empty = await ask('POST', '/photos', {}, new FormData());
      expect(empty.response.status).to.equal(422);
      expect(issuesOf(empty.bytes)).to.deep.equal(['/id required', '/image required']);
    });

    /** Sends a body by hand: the answer is read although the connection is closed before the body was. */
    const byHand = (
      route: string,
      type: string,
      chunks: readonly (string | Uint8Array)[],
      isCut = false,
    ): Promise<readonly [status: number | string, content: string]> =>
      new Promise((resolve) => {
        const [method = '', path = ''] = route.split(' ');
        const sent = nodeRequest(
          address + path,
          { method, headers: { 'content-type': type } },
          (response) => {
            let content = '';
            response.setEncoding('utf8').on('data', (text) => {
              content += String(text);
            });
            response.on('end', () => resolve([response.statusCode ?? 0, content]));
          },
        );
        sent.on('error', (error: NodeJS.ErrnoException) => resolve([error.code ?? 'error', '']));
        for (const chunk of chunks) sent.write(chunk);
        if (isCut) setTimeout(() => sent.destroy(), 30);
        else sent.end();
      });
    const sendForm = async (form: FormData) => {
      const body = new Response(form);
      const type = body.headers.get('content-type') ?? '';
      return byHand('POST /photos', type, [new Uint8Array(await body.arrayBuffer())]);
    };

    it('are refused where they are too large, before they are read', async () => {
      const large = new Uint8Array(20_001);
      expect((await byHand('PUT /photos/2/image', 'image/png', [large]))[0]).to.equal(413);
      const form = new FormData();
      form.append('id', '8');
      form.append('image', new Blob([large], { type: 'image/png' }), 'a.png');
      const [status, content] = await sendForm(form);
      expect([status, issuesOf(Buffer.from(content))]).to.deep.equal([413, ['/image limit']]);
      const field = new FormData();
      field.append('title', 'x'.repeat(5000));
      field.append('image', new Blob([PNG], { type: 'image/png' }), 'a.png');
      expect((await sendForm(field))[0]).to.equal(413);
      const many = new FormData();
      for (let i = 0; i < 5; i++) many.append(`image${i}`, new Blob(['x']), 'a');
      expect((await sendForm(many))[0]).to.equal(413);
      expect(await store.count('photo')).to.equal(4);
      expect(told).to.deep.equal([]);
    });

    it('are 400 where the form is broken, and leave nothing', async () => {
      const head =
        '--b\r\ncontent-disposition: form-data; name="image"; filename="a.png"\r\ncontent-type: image/png\r\n\r\n';
      expect((await byHand('POST /photos', 'multipart/form-data', ['x']))[0]).to.equal(400);
      expect((await byHand('POST /photos', 'multipart/form-data; boundary=b', [head, PNG]))[0]).to.equal(400);
      expect((await byHand('POST /photos', 'multipart/form-data; boundary=b', ['nothing']))[0]).to.equal(400);
      expect(
        (await byHand('POST /photos', 'multipart/form-data; boundary=b', [`${head}x\r\n--b--\r\n`]))[0],
      ).to.equal(422);
      const twice = '--b\r\ncontent-disposition: form-data; name="id"\r\n\r\n1\r\n'.repeat(2);
      expect(
        (await byHand('POST /photos', 'multipart/form-data; boundary=b', [`${twice}--b--\r\n`]))[0],
      ).to.equal(400);
      const long = [head, new Uint8Array(60_000), '\r\n--b--\r\n'];
      expect((await byHand('POST /photos', 'multipart/form-data; boundary=b', long))[0]).to.equal(413);
      expect(
        (await byHand('POST /photos', 'multipart/form-data; boundary=b', [head, PNG], true))[0],
      ).to.equal('ECONNRESET');
      expect(await store.count('photo')).to.equal(4);
      expect(told).to.deep.equal([]);
    });
  });

  it('are received and answered by routes of one’s own', async () => {
    const png = { 'content-type': 'image/png' };
    const sent = new Request('http://a.test/mine', { method: 'PUT', headers: png, body: PNG });
    const got = await receive(album, 'photos.set', sent);
    if (!got.ok) throw new Error('it was not taken');
    expect([got.value, got.files.image.type, await got.files.image.bytes()]).to.deep.equal([
      null,
      'image/png',
      PNG,
    ]);
    // Asked for twice, it is read once.
    expect(await got.files.image.bytes()).to.deep.equal(PNG);
    const form = new FormData();
    form.append('id', '7');
    form.append('image', new Blob([PNG], { type: 'image/png' }), 'a.png');
    const told = await receive(
      album,
      'photos.enter',
      new Request('http://a.test/', { method: 'POST', body: form }),
    );
    if (!told.ok) throw new Error('it was not taken');
    expect([told.value.id, told.files.image.name, told.files.note]).to.deep.equal([7, 'a.png', null]);
    const row = { id: 1, image: PNG, mediaType: 'image/png', title: null };
    const answer = await respond(album, 'photos.image', row, {
      request: new Request('http://a.test/photos/1/image'),
    });
    expect([answer.status, answer.headers.get('content-type')]).to.deep.equal([200, 'image/png']);
    expect(new Uint8Array(await answer.arrayBuffer())).to.deep.equal(PNG);
  });

  it('say what is wrong with them where they are declared', () => {
    const findings = (declare: () => unknown): readonly string[] => {
      try {
        declare();
        return [];
      } catch (error) {
        return (error as DeclarationError).findings.map(({ path, message }) => `${path}: ${message}`);
      }
    };
    expect(
      findings(() => fileOf(db.photo, (p) => ({ bytes: p.title, more: p.id }) as never, { name: 'F' })),
    ).to.deep.equal([
      'F.bytes: a file has bytes, a column of bytes()',
      'F.more: a file has bytes, type and name',
    ]);
    expect(
      findings(() => fileOf(db.photo, (p) => ({ type: p.mediaType }) as never, { name: 'F' })),
    ).to.deep.equal(['F: a file has bytes, a column of bytes()']);
    expect(
      findings(() =>
        endpoint('GET /x', {
          takes: values({ a: text() }),
          files: { a: file(), b: file({ types: ['png'], max: 0 }), c: 3 as never },
        }),
      ),
    ).to.deep.equal([
      'GET /x a: what it takes has a member of that name already',
      'GET /x b: its max is a number of bytes',
      'GET /x b: "png" is no media type, such as image/png',
      'GET /x c: expected file({ types, max })',
      'GET /x: a request of that method has no body to hold a file',
    ]);
  });
});
