#!/usr/bin/env python3
"""Keeps what the product refuses, so that two versions of it can be compared: nothing that was refused may be taken
by the other, and nothing that was taken refused.

Usage: refusals.py save DATA OUT [PRODUCT]   asks a server on a copy of the data folder DATA, writes one line each to OUT;
                                             PRODUCT is the folder of another version, the working folder else
       refusals.py compare A B               names what one takes and the other refuses, then what is refused in other words

Every field of every kind of fact is given odd values, one a row, in files that are handed in; every parameter and
every property of a body of every operation that the description has is given them one at a time. Fields, operations
and their properties are read from the working folder's docs/formats.md and web/openapi.json for both versions.
"""
import json
import re
import shutil
import sys
import tempfile
import urllib.error
import urllib.parse
import urllib.request
import uuid

import answers

TEXTS = ['', ' ', '\0', '..', '../../etc/passwd', '%zz', 'a' * 5000, '\u202e\u0301', 'ü/☂ \'"', '-1', '0', '1', '7',
         '99999999999999999999', '1e999', 'NaN', '{}', 'null', '[(', 'yes', '24h', 'P14D', '12 GB', '2026-02-30T00:00:00Z',
         '2026-02-01T00:00:00Z', '+1000000000-01-01T00:00:00Z', '-999999999-01-01T00:00:00Z', 'P999999999999D',
         'FREQ=SECONDLY;COUNT=-1', 'FREQ=DAILY;BYHOUR=2', '0 22 * * *', 'a=b;c', 'near:4h', '22:00-06:00', 'Europe/Oslo',
         'full', 'disk', 'present', 'complete', 'restored', 'crash', 'tar.gz', 'e3b0c442', 'a\nb', 'http://[']
PLAIN = {
    'stores': {'name': 'n', 'medium': 'disk'}, 'policies': {'name': 'n'}, 'workloads': {'name': 'n'},
    'resources': {'name': 'n', 'kind': 'database'},
    'points': {'resource': 'r', 'form': 'full', 'data_time': '2026-01-01T00:00:00Z', 'outcome': 'complete'},
    'copies': {'store': 's', 'state': 'present'}, 'jobs': {'type': 'backup', 'outcome': 'failed', 'started': '2026-01-01T00:00:00Z'},
    'exceptions': {'reason': 'r'}}
# Sessions end by them, or each takes long.
LEFT_OUT = ('/api/events', '/api/session', '/api/first-administrator', '/api/engines', '/api/imports', '/api/outside-checks')


def fields():
    with open('docs/formats.md') as file:
        for line in file:
            row = re.match(r'\| `(\w+)` \| (.*) \|$', line)
            if row and row[1] in PLAIN:
                yield row[1], re.findall(r'\w+', re.sub(r'\([^()]*\)', '', row[2]).replace('*', ''))


def send(server, method, path, body=None, kind='application/json'):
    """The status of an answer, and what a problem says."""
    request = urllib.request.Request(f'{server.address}{path}', method=method, data=body)
    if method != 'GET':
        request.add_header('Content-Type', kind)
        request.add_header('X-XSRF-TOKEN', next(c.value for c in server.cookies if c.name == 'XSRF-TOKEN'))
        request.add_header('If-Match', '"0"')
    try:
        with server.opener.open(request) as answer:
            return answer.status, answer.read()
    except urllib.error.HTTPError as e:
        return e.code, e.read()


def told(status, body):
    try:
        words = json.loads(body).get('detail', '') if status >= 400 else ''
    except (ValueError, AttributeError):
        words = ''
    return f'{"taken" if status < 300 else status}\t' + re.sub(
        r'\d{4}-\d\d-\d\dT[\d:.]+Z|[0-9a-f]{8}(-[0-9a-f-]{27})?', 'X', words)


def imports(server):
    for file, names in fields():
        rows = []
        for name in names:
            for text in TEXTS:
                row = dict(PLAIN[file])
                row['point' if file == 'copies' else 'key'] = f'k{len(rows)}'
                row[name] = text
                rows.append((name, text, row))
        mark = uuid.uuid4().hex
        body = (f'--{mark}\r\nContent-Disposition: form-data; name="files"; filename="{file}.json"\r\n\r\n'
                + json.dumps([r for _, _, r in rows]) + f'\r\n--{mark}--\r\n').encode()
        status, answer = send(server, 'POST', '/api/imports?feed=odd', body, f'multipart/form-data; boundary={mark}')
        if status != 201:
            sys.exit(f'{file}: {status} {answer.decode()}')
        found = {}
        for result in json.loads(answer)['files']:
            for r in result['rejections']:
                found.setdefault(r['line'], []).append(f'{r["field"]}: {r["reason"]}')
        for number, (name, text, _) in enumerate(rows, 1):
            why = found.get(number)
            yield f'{file}.{name} = {text[:40]!r}\t' + ('400\t' + '; '.join(why) if why else 'taken\t')


def operations(server):
    with open('web/openapi.json') as file:
        description = json.load(file)

    def schema(of):
        while '$ref' in of:
            of = description['components']['schemas'][of['$ref'].rsplit('/', 1)[1]]
        return of

    for path, methods in sorted(description['paths'].items()):
        if path.startswith(LEFT_OUT):
            continue
        for method, operation in sorted(methods.items()):
            parameters = operation.get('parameters', [])
            content = operation.get('requestBody', {}).get('content', {})
            if content and 'application/json' not in content:
                continue
            body = schema(content['application/json']['schema']) if content else {}
            tries = [('parameter', p['name'], t) for p in parameters if p['in'] in ('path', 'query') for t in TEXTS]
            tries += [('body', name, t) for name in body.get('properties', {}) for t in TEXTS]
            for where, name, text in tries:
                address, query = path, {}
                for p in parameters:
                    value = text if where == 'parameter' and p['name'] == name else None
                    if p['in'] == 'path':
                        address = address.replace(f'{{{p["name"]}}}', urllib.parse.quote(value or 'x', safe=''))
                    elif p['in'] == 'query' and value is not None:
                        query[p['name']] = value
                if query:
                    address += '?' + urllib.parse.urlencode(query)
                sent = json.dumps({name: text} if where == 'body' else {}).encode() if content else None
                yield (f'{method.upper()} {path} {where} {name} = {text[:40]!r}\t'
                       + told(*send(server, method.upper(), address, sent)))


def save(data, out, product='.'):
    work = tempfile.mkdtemp(prefix='hard-proof-refusals.')
    try:
        shutil.copytree(data, f'{work}/data', symlinks=True)
        server = answers.Server(f'{work}/data', product, 'administrator')
        try:
            with open(out, 'w') as file:
                for line in (*imports(server), *operations(server)):
                    file.write(re.sub(r'[\r\n]+', ' ', line) + '\n')
        finally:
            server.close()
    finally:
        shutil.rmtree(work)


def read(path):
    with open(path) as file:
        return {line.split('\t')[0]: line.rstrip('\n').split('\t')[1:] for line in file if '\t' in line}


def compare(a, b):
    before, after = read(a), read(b)
    changed = [k for k in before if k in after and (before[k][0] == 'taken') != (after[k][0] == 'taken')]
    words = [k for k in before if k in after and k not in changed and before[k] != after[k]]
    for k in changed:
        print(f'{k}: {before[k][0]} before, {after[k][0]} after ({(before[k] + after[k])[1] or after[k][1]})')
    for k in words:
        print(f'in other words: {k}: {" ".join(before[k])} | {" ".join(after[k])}')
    print(f'{len(before)} tries before, {len(after)} after, {len(before.keys() & after.keys())} the same;'
          f' {len(changed)} taken by one and refused by the other, {len(words)} refused in other words')
    return 1 if changed else 0


if __name__ == '__main__':
    if len(sys.argv) < 4 or sys.argv[1] not in ('save', 'compare'):
        sys.exit(__doc__)
    if sys.argv[1] == 'save':
        save(*sys.argv[2:])
    else:
        sys.exit(compare(*sys.argv[2:]))
