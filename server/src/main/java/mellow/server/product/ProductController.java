package mellow.server.product;

import jakarta.validation.Valid;
import java.util.List;
import mellow.server.people.SignedIn;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.ProductReply;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Which products there are and what they use. */
@RestController
@RequestMapping("/api/products")
class ProductController {

    private final ProductService products;

    ProductController(ProductService products) {
        this.products = products;
    }

    @GetMapping
    List<ProductReply> all() {
        return products.all();
    }

    @GetMapping("/{slug}")
    ProductReply one(@PathVariable String slug) {
        return products.find(slug);
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    ProductReply create(@Valid @RequestBody Definition wanted, @AuthenticationPrincipal SignedIn me) {
        return products.create(me.id(), wanted);
    }

    @PutMapping("/{slug}")
    ProductReply edit(
            @PathVariable String slug, @Valid @RequestBody Definition wanted, @AuthenticationPrincipal SignedIn me) {
        return products.edit(me.id(), slug, wanted);
    }

    /** Takes a product out of sight; its tables stay, and it can be put back. */
    @DeleteMapping("/{slug}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        products.remove(me.id(), slug);
    }

    @GetMapping("/removed")
    List<ProductReply> removed() {
        return products.removed();
    }

    @PostMapping("/removed/{id}/put-back")
    ProductReply putBack(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return products.putBack(me.id(), id);
    }
}
