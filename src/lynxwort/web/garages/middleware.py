from django.utils.functional import SimpleLazyObject

from lynxwort.web.garages.services import garage_of, units_of_person


class GarageMiddleware:
    """Puts the person's garage and units on the request."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.garage = SimpleLazyObject(lambda: garage_of(request.user))
        request.preset = units_of_person(request.user)
        return self.get_response(request)
