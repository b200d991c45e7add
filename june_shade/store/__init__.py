"""PostgreSQL: tables, migrations, one query file per noun. Knows nothing of HTTP and computes nothing of the job."""
