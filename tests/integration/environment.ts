// The cluster's address stays what the run was started with; each test file moves to a database of its own.
process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
