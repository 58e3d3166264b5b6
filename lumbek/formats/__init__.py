"""Versions of what is kept and handed out: old documents are brought forward, step by step, and never refused."""
