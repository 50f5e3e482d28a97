"""Work that takes longer than a page: a table, one worker thread, cancel."""
