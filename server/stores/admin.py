from django.contrib import admin

from stores.models import AxleFamily, RatioOption, ShimRow, SpecLimit


class LimitInline(admin.TabularInline):
    model = SpecLimit
    extra = 0


class RatioInline(admin.TabularInline):
    model = RatioOption
    extra = 0


class ShimInline(admin.TabularInline):
    model = ShimRow
    extra = 0


@admin.register(AxleFamily)
class AxleFamilyAdmin(admin.ModelAdmin):
    list_display = ("name", "maker", "carrier_method", "is_sample")
    inlines = (LimitInline, RatioInline, ShimInline)
