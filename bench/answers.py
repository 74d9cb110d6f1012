#!/usr/bin/env python3
"""Keeps what the product answers, so that two versions of it can be compared byte for byte.

Usage: answers.py save DATA OUT     asks a copy of the data folder DATA, and writes every answer below OUT
       answers.py compare A B       says which answers differ between two such folders; 1 when any does

A server on the copy is asked for every address that answers for an instant, for every workload, resource and
finding, at instants that the facts themselves give: so that it does not matter when it is asked. The command line
evaluates and packs the same instants; of a pack everything is compared but the instant and the name of its making.
Take "before" with the jar of one version and "after" with that of the other, of one DATA.
"""
import filecmp
import http.cookiejar
import json
import os
import re
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import urllib.error
import urllib.parse
import urllib.request
import zipfile
from datetime import datetime, timezone

NAME, PASSWORD = 'auditor', 'demo'
EACH = 40  # of workloads, resources and findings: so many of each are asked for one by one


def instants(data):
    """The newest recording, and some that lie a part of the way back."""
    base = sqlite3.connect(f'file:{data}/hard-proof.db?mode=ro', uri=True)
    first, last = base.execute('SELECT min(received_at), max(received_at) FROM import_batch').fetchone()
    runs = base.execute('SELECT coalesce(max(ended_at), 0) FROM drill_run').fetchone()[0]
    last = max(last, runs) + 1000
    return [datetime.fromtimestamp(ms / 1000, timezone.utc).strftime('%Y-%m-%dT%H:%M:%SZ')
            for ms in (last, last - (last - first) // 3, first + (last - first) // 10)]


class Server:
    """The product on a data folder, signed in."""

    def __init__(self, data, product='.', name=NAME):
        self.process = subprocess.Popen(
            [f'{product}/hard-proof', 'serve', '--port', '0', '--data', data],
            stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
        self.address = None
        while not self.address:
            line = self.process.stdout.readline()
            if not line:
                sys.exit('the server did not start')
            self.address = (re.search(r'Hard Proof is at (\S+)', line) or [None, None])[1]
        self.cookies = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))
        self.get('session')
        request = urllib.request.Request(
            f'{self.address}/api/session', json.dumps({'name': name, 'password': PASSWORD}).encode(),
            {'Content-Type': 'application/json',
             'X-XSRF-TOKEN': next(c.value for c in self.cookies if c.name == 'XSRF-TOKEN')})
        self.opener.open(request).read()

    def get(self, path, **query):
        address = f'{self.address}/api/{path}'
        if query:
            address += '?' + urllib.parse.urlencode(query)
        try:
            with self.opener.open(address) as answer:
                return answer.read()
        except urllib.error.HTTPError as e:
            return b'%d ' % e.code + e.read()

    def close(self):
        self.process.terminate()
        self.process.wait()


def pretty(body):
    try:
        return json.dumps(json.loads(body), indent=1, ensure_ascii=False, sort_keys=True) + '\n'
    except ValueError:
        return body.decode(errors='replace')


def save(data, out):
    os.makedirs(out)
    work = tempfile.mkdtemp(prefix='hard-proof-answers.')
    copy = f'{work}/data'
    shutil.copytree(data, copy, symlinks=True)
    at = instants(copy)

    def keep(name, text):
        with open(f'{out}/{name}', 'w') as file:
            file.write(text)

    def asked(server, name, path, **query):
        keep(re.sub(r'[^\w.@=-]', '_', name), pretty(server.get(path, **query)))

    server = Server(copy)
    try:
        for t in at:
            for known in ('then', at[0])[:1 if t == at[0] else 2]:
                when = {'asAt': t, 'knownAt': known}
                mark = f'@{t}-{known}'
                for path in ('board', 'findings', 'integrity', 'policies', 'exceptions', 'resources', 'job-summary'):
                    asked(server, path + mark, path, **when)
                board = json.loads(server.get('board', **when))
                for key in sorted(w['key'] for w in board['workloads'])[:EACH]:
                    quoted = urllib.parse.quote(key, safe='')
                    for part in ('', '/verdicts'):
                        asked(server, f'workload-{key}{part}{mark}', f'workloads/{quoted}{part}', **when)
                resources = json.loads(server.get('resources', **when))
                for key in sorted(r['key'] if isinstance(r, dict) else r for r in resources)[:EACH]:
                    quoted = urllib.parse.quote(key, safe='')
                    asked(server, f'next-to-go-{key}{mark}', f'resources/{quoted}/next-to-go', **when)
                    asked(server, f'exposure-{key}{mark}', f'resources/{quoted}/exposure', **when)
                findings = json.loads(server.get('findings', state='open', limit=EACH, **when))
                for key in sorted(f['key'] for f in findings['rows']):
                    asked(server, f'finding-{key}{mark}', 'finding', key=key, **when)
            asked(server, f'standards@{t}', 'standards', asAt=t)
        asked(server, 'insights', 'insights', **{'from': at[2], 'to': at[0]})
        asked(server, 'differences', 'differences', **{'from': at[1], 'to': at[0]})
        for path in ('drill-runs', 'check-types', 'selector-fields', 'mappings', 'imports', 'outside-hosts'):
            asked(server, path, path)
    finally:
        server.close()

    def ours(*arguments):
        done = subprocess.run(['./hard-proof', *arguments, '--data', copy], capture_output=True, text=True)
        return done.stdout + (done.stderr if done.returncode > 1 else '')

    for t in at:
        keep(f'evaluate@{t}.csv', ours('evaluate', '--csv', '--as-at', t))
        keep(f'findings@{t}.csv', ours('evaluate', '--csv', '--findings', '--as-at', t))
        keep(f'exposure@{t}.csv', ours('evaluate', '--exposure', '--as-at', t))
        pack = f'{work}/pack.zip'
        ours('pack', '--as-at', t, '--out', pack)
        with zipfile.ZipFile(pack) as zipped:
            for entry in zipped.infolist():
                name = entry.filename.split('/', 1)[-1]
                if name.startswith('data/') and not name.endswith('.html'):
                    keep(f'pack@{t}-{name.replace("/", "_")}', zipped.read(entry).decode(errors='replace'))
        os.remove(pack)
    shutil.rmtree(work)
    print(f'{len(os.listdir(out))} answers below {out}, for {", ".join(at)}')


def compare(a, b):
    one, other = set(os.listdir(a)), set(os.listdir(b))
    wrong = [f'only in {a}: {n}' for n in sorted(one - other)] + [f'only in {b}: {n}' for n in sorted(other - one)]
    wrong += [f'differs: {n}' for n in sorted(one & other) if not filecmp.cmp(f'{a}/{n}', f'{b}/{n}', shallow=False)]
    print('\n'.join(wrong) or f'{len(one)} answers are equal')
    return 1 if wrong or not one else 0


if __name__ == '__main__':
    if len(sys.argv) != 4 or sys.argv[1] not in ('save', 'compare'):
        sys.exit(__doc__)
    sys.exit(save(*sys.argv[2:]) if sys.argv[1] == 'save' else compare(*sys.argv[2:]))
