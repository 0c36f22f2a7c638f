-- Loads rows that were copied into finding_line, such as by:
--   setup-ready survey reports --format rows | psql -c "COPY finding_line FROM STDIN WITH (FORMAT csv, DELIMITER e'\x01', QUOTE e'\x02')"
-- Numbers of reports go on behind those that are there.
INSERT INTO finding
SELECT (SELECT coalesce(max(report), 0) FROM finding) + (one->>'report')::bigint,
       one->>'machine', (one->>'checked')::timestamptz, one->>'guide', one->>'system', one->>'distro', one->>'distro_version', one->>'arch', one->>'role',
       one->>'outcome', one->>'requirement', one->>'kind', one->>'level', one->>'verdict', one->>'cause', one->>'version', one->>'found', one->>'fix'
FROM (SELECT line::json AS one FROM finding_line) AS lines;
DELETE FROM finding_line;
ANALYZE finding;
