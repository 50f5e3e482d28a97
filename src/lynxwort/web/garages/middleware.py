from django.utils.functional import SimpleLazyObject

from lynxwort.web.garages.models import Garage
from lynxwort.web.garages.services import units_of_person


def _garage_of(user):
    if not user.is_authenticated:
        return None
    return Garage.objects.filter(memberships__user=user).order_by("memberships__id").first()


class GarageMiddleware:
    """Puts the person's garage and units on the request."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.garage = SimpleLazyObject(lambda: _garage_of(request.user))
        request.preset = units_of_person(request.user)
        return self.get_response(request)
