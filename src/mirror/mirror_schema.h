// The tables and views that a mirror makes in the server; docs/mirror.md describes them.
#pragma once

namespace cognitum {

inline constexpr const char* mirror_schema = R"sql(
CREATE SCHEMA IF NOT EXISTS cognitum;
CREATE TABLE IF NOT EXISTS cognitum.bench (
  bench_no serial PRIMARY KEY, name text NOT NULL UNIQUE, place text NOT NULL, mirrored_at timestamptz NOT NULL);
CREATE TABLE IF NOT EXISTS cognitum.reading (
  reading_no serial PRIMARY KEY, bench_no integer NOT NULL REFERENCES cognitum.bench, id text NOT NULL, name text NOT NULL,
  kind text NOT NULL, unit text NOT NULL, UNIQUE (bench_no, id));
CREATE TABLE IF NOT EXISTS cognitum.sample (
  reading_no integer NOT NULL, time timestamptz NOT NULL, raw double precision, value double precision,
  doubt double precision, cause smallint NOT NULL, PRIMARY KEY (reading_no, time));
CREATE TABLE IF NOT EXISTS cognitum.day_done (
  reading_no integer NOT NULL, day integer NOT NULL, n bigint NOT NULL, PRIMARY KEY (reading_no, day));
CREATE TABLE IF NOT EXISTS cognitum.calibration (
  bench_no integer NOT NULL, id bigint NOT NULL, reading text NOT NULL, time timestamptz NOT NULL, body jsonb NOT NULL,
  PRIMARY KEY (bench_no, id));
CREATE TABLE IF NOT EXISTS cognitum.log_entry (
  bench_no integer NOT NULL, id bigint NOT NULL, time timestamptz NOT NULL, reading text NOT NULL, kind text NOT NULL,
  text text NOT NULL, corrects bigint, PRIMARY KEY (bench_no, id));
CREATE TABLE IF NOT EXISTS cognitum.cause (cause smallint PRIMARY KEY, words text NOT NULL);
CREATE OR REPLACE VIEW cognitum.readings AS
  SELECT b.name AS bench, r.id, r.name AS reading, r.kind, r.unit FROM cognitum.reading r JOIN cognitum.bench b USING (bench_no);
CREATE OR REPLACE VIEW cognitum.samples AS
  SELECT b.name AS bench, r.name AS reading, r.unit, s.time, s.value, s.doubt, s.raw, c.words AS cause
  FROM cognitum.sample s JOIN cognitum.reading r USING (reading_no) JOIN cognitum.bench b USING (bench_no)
  LEFT JOIN cognitum.cause c ON c.cause = s.cause AND s.cause <> 0;
CREATE OR REPLACE VIEW cognitum.calibrations AS
  SELECT b.name AS bench, c.reading, c.time, c.body ->> 'verdict_left' AS verdict, c.body FROM cognitum.calibration c
  JOIN cognitum.bench b USING (bench_no);
CREATE OR REPLACE VIEW cognitum.logbook AS
  SELECT b.name AS bench, l.time, l.kind, l.reading, l.text, l.corrects, l.id FROM cognitum.log_entry l JOIN cognitum.bench b USING (bench_no);
)sql";

} // namespace cognitum
