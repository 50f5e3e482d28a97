from django.middleware.gzip import GZipMiddleware


class PageGzip(GZipMiddleware):
    """Compress whole pages; the parts of a notch go plain, since they travel a room and must be painted at once."""

    def process_response(self, request, response):
        if request.headers.get("HX-Request"):
            return response
        return super().process_response(request, response)
