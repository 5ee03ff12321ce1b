from django.contrib import admin
from django.contrib.auth.admin import UserAdmin

from accounts.models import Shop, User


@admin.register(User)
class PersonAdmin(UserAdmin):
    list_display = ("username", "display_name", "role", "shop", "is_active")
    fieldsets = (
        (
            None,
            {"fields": ("username", "password", "display_name", "role", "shop", "organisation", "is_active", "is_staff", "is_superuser")},
        ),
    )
    add_fieldsets = ((None, {"fields": ("username", "display_name", "role", "shop", "password1", "password2")}),)


@admin.register(Shop)
class ShopAdmin(admin.ModelAdmin):
    list_display = ("name", "is_demo")
