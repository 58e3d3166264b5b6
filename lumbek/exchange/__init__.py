"""Open formats in and out, and the versions they came in: old documents are brought forward and never refused."""
