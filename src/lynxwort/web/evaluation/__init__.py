"""The door from the pages to `evaluate`: inputs put together from the rows, reports cached, kernels warmed."""
