from django.contrib import admin
from django.forms import BaseFormSet, ModelForm
from django.http import HttpRequest

from records.writing import Writing
from stores.models import AxleFamily, RatioOption, SpecFastener, SpecFluid, SpecLimit
from stores.sheets import current_revision


class LimitInline(admin.TabularInline):
    model = SpecLimit
    extra = 0


class RatioInline(admin.TabularInline):
    model = RatioOption
    extra = 0


class FastenerInline(admin.TabularInline):
    model = SpecFastener
    extra = 0


class FluidInline(admin.TabularInline):
    model = SpecFluid
    extra = 0


@admin.register(AxleFamily)
class AxleFamilyAdmin(admin.ModelAdmin):
    list_display = ("name", "part", "maker", "carrier_method", "is_sample")
    inlines = (LimitInline, RatioInline, FastenerInline, FluidInline)

    def save_related(self, request: HttpRequest, form: ModelForm, formsets: list[BaseFormSet], change: bool) -> None:
        """A sheet that was changed is a new revision; work that was begun keeps the one it is judged by."""
        super().save_related(request, form, formsets, change)
        current_revision(form.instance, Writing.of(request.user), "Changed in the Stores")  # type: ignore[arg-type]
