namespace Uncial.Web.Network;

/// <summary>
/// The address of the shop, which is printed on tags, certificates and codes: never the one that a page happened to be opened under.
/// </summary>
public sealed class ShopAddress(NetworkSettings settings)
{
    /// <summary>The address without a slash at its end.</summary>
    /// <param name="shop">The shop, whose settings may say it.</param>
    /// <param name="request">The request: its address is taken where nothing else says one, as under development.</param>
    public string Of(Shop shop, HttpRequest request)
    {
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(request);
        return shop.Address ?? Usual(request);
    }

    /// <summary>The address where the settings of the shop say none.</summary>
    public string Usual(HttpRequest request)
    {
        ArgumentNullException.ThrowIfNull(request);
        return settings.Address.Length > 0 ? settings.Address.TrimEnd('/') : $"{request.Scheme}://{request.Host}";
    }
}
