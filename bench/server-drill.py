#!/usr/bin/env python3
"""Drills one resource again and again in a running server, as a person would have it done, and prints for each
run the milliseconds that it read.

Usage: server-drill.py DATA RESOURCE METHOD < a line for each run; a line of the answer follows at once.
"""
import http.cookiejar
import json
import re
import subprocess
import sys
import time
import urllib.error
import urllib.request

data, resource, method = sys.argv[1:]
server = subprocess.Popen(
    ['./hard-proof', 'serve', '--port', '0', '--data', data],
    stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
code = address = None
while not address:
    line = server.stdout.readline()
    if not line:
        sys.exit('the server did not start')
    code = (re.search(r'one-time code (\S+)', line) or [None, code])[1]
    address = (re.search(r'Hard Proof is at (\S+)', line) or [None, address])[1]

cookies = http.cookiejar.CookieJar()
opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(cookies))


def call(path, body=None):
    request = urllib.request.Request(f'{address}/api/{path}', headers={'Content-Type': 'application/json'})
    if body is not None:
        request.data = json.dumps(body).encode()
        request.add_header('X-XSRF-TOKEN', next(c.value for c in cookies if c.name == 'XSRF-TOKEN'))
    try:
        with opener.open(request) as answer:
            text = answer.read()
            return json.loads(text) if text else None
    except urllib.error.HTTPError as e:
        sys.exit(f'{path}: {e.code} {e.read().decode()}')


try:
    call('session')
    who = {'name': 'bench', 'password': 'long enough to measure with'}
    call('first-administrator', {'code': code, 'fullName': 'Bench', **who})
    call('session', who)
    for _ in sys.stdin:
        run = call('drill-runs', {'resource': resource, 'method': method, 'reason': 'bench'})
        while not run.get('endedAt'):
            time.sleep(0.05)
            run = call(f"drill-runs/{run['id']}")
        if run['checks'] != 'passed':
            sys.exit(f"the drill did not pass: {run['sentence']}")
        print(round(1000 * run['bytes'] / run['bytesPerSecond']), flush=True)
finally:
    server.terminate()
