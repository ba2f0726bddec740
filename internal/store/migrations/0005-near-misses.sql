-- Near misses over all jobs.

CREATE INDEX entries_near_misses ON entries(at) WHERE json_extract(CAST(body AS TEXT), '$.subject') = 'near-miss'
