"""The Django project: one app per noun people work with, over `ui`; only services, forms and models touch the core."""
