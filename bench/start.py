#!/usr/bin/env python3
"""From the start of the process to the first Board, beside an empty Spring Boot application as a plain fat jar.

Usage: start.py DATA [ROUNDS]    DATA is a folder that the demo has filled; a copy of it is served

The peer has Spring's web and jdbc starters, a SQLite file and one address, and nothing else. Both are started by turns;
ours ends its time when somebody has signed in and the whole Board has come, the peer's when its first answer has come.
Medians and the median of the rounds' ratios are printed. The peer is built offline, with what the product's own build
has brought.
"""
import http.cookiejar
import json
import os
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request

POM = '''<project xmlns="http://maven.apache.org/POM/4.0.0"><modelVersion>4.0.0</modelVersion>
<parent><groupId>org.springframework.boot</groupId><artifactId>spring-boot-starter-parent</artifactId><version>%s</version><relativePath/></parent>
<groupId>peer</groupId><artifactId>peer</artifactId><version>1</version><properties><java.version>17</java.version></properties>
<dependencies>
<dependency><groupId>org.springframework.boot</groupId><artifactId>spring-boot-starter-webmvc</artifactId></dependency>
<dependency><groupId>org.springframework.boot</groupId><artifactId>spring-boot-starter-jdbc</artifactId></dependency>
<dependency><groupId>org.xerial</groupId><artifactId>sqlite-jdbc</artifactId></dependency>
</dependencies>
<build><plugins><plugin><groupId>org.springframework.boot</groupId><artifactId>spring-boot-maven-plugin</artifactId></plugin></plugins></build>
</project>'''
CODE = '''package peer;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.web.bind.annotation.*;
@SpringBootApplication @RestController
public class Peer {
  private final JdbcTemplate jdbc;
  Peer(JdbcTemplate jdbc) { this.jdbc = jdbc; }
  public static void main(String[] args) { SpringApplication.run(Peer.class, args); }
  @GetMapping("/") String one() { return jdbc.queryForObject("SELECT 'one'", String.class); }
}'''
PORT = 18431


def spring_boot():
    """The version that the product itself is built with."""
    with open('pom.xml') as file:
        return re.search(r'<artifactId>spring-boot-starter-parent</artifactId>\s*<version>([^<]+)<', file.read())[1]


def peer(work):
    os.makedirs(f'{work}/src/main/java/peer')
    with open(f'{work}/pom.xml', 'w') as file:
        file.write(POM % spring_boot())
    with open(f'{work}/src/main/java/peer/Peer.java', 'w') as file:
        file.write(CODE)
    with subprocess.Popen(['mvn', '-q', '-o', '-ntp', 'package', '-DskipTests'], cwd=work,
                          stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True) as build:
        said = build.communicate()[0]
    if build.returncode:
        sys.exit(f'the peer can\'t be built:\n{said}')
    return f'{work}/target/peer-1.jar'


def first_answer_of_peer(jar, work):
    begun = time.monotonic()
    process = subprocess.Popen(
        ['java', '-jar', jar, f'--server.port={PORT}', f'--spring.datasource.url=jdbc:sqlite:{work}/peer.db'],
        stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        while time.monotonic() - begun < 120:
            try:
                urllib.request.urlopen(f'http://localhost:{PORT}/').read()
                return time.monotonic() - begun
            except OSError:
                time.sleep(0.02)
        sys.exit('the peer does not answer')
    finally:
        process.terminate()
        process.wait()


def first_board(data):
    """Seconds until the address is told, until somebody is signed in, and until the Board is there."""
    begun = time.monotonic()
    process = subprocess.Popen(
        ['./hard-proof', 'serve', '--port', '0', '--data', data],
        stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    try:
        address = None
        while not address:
            line = process.stdout.readline() or sys.exit('the server did not start')
            address = (re.search(r'Hard Proof is at (\S+)', line) or [None, None])[1]
        told = time.monotonic() - begun
        cookies = http.cookiejar.CookieJar()
        opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(cookies))
        opener.open(f'{address}/api/session').read()
        request = urllib.request.Request(
            f'{address}/api/session', json.dumps({'name': 'auditor', 'password': 'demo'}).encode(),
            {'Content-Type': 'application/json',
             'X-XSRF-TOKEN': next(c.value for c in cookies if c.name == 'XSRF-TOKEN')})
        opener.open(request).read()
        signed = time.monotonic() - begun
        if not json.loads(opener.open(f'{address}/api/board').read())['workloads']:
            sys.exit('the Board is empty')
        return told, signed, time.monotonic() - begun
    finally:
        process.terminate()
        process.wait()


def main(data, rounds=5):
    work = tempfile.mkdtemp(prefix='hard-proof-start.')
    try:
        jar = peer(f'{work}/peer')
        copy = f'{work}/data'
        shutil.copytree(data, copy, symlinks=True)
        first_board(copy)
        first_answer_of_peer(jar, work)
        ours, theirs = [], []
        for _ in range(int(rounds)):
            ours.append(first_board(copy))
            theirs.append(first_answer_of_peer(jar, work))
        for name, at in (('address told', 0), ('signed in', 1), ('Board there', 2)):
            print(f'{name:<40}{statistics.median(o[at] for o in ours):8.2f} s')
        print(f'{"empty application, first answer":<40}{statistics.median(theirs):8.2f} s')
        print(f'{"Board to empty application":<40}'
              f'{statistics.median(o[2] / t for o, t in zip(ours, theirs)):8.2f}')
    finally:
        shutil.rmtree(work)


if __name__ == '__main__':
    main(*sys.argv[1:])
